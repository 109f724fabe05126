/** Figures, as the server counts them. */
import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";
import { asked, type TableView } from "../views/view";

export type Figures = Schema<"FiguresOut">;
export type QuestionFigure = Schema<"QuestionFigure">;
export type Picture = NonNullable<QuestionFigure["picture"]>;
export type Bars = Schema<"Bars">;
export type Bar = Schema<"Bar">;
export type Bins = Schema<"Bins">;
export type Ranks = Schema<"Ranks">;
export type Texts = Schema<"Texts">;
export type Gathered = Schema<"Gathered">;
export type Single = Exclude<Picture, Gathered>;
export type Crossing = Schema<"Crossing">;
export type Spread = Schema<"Spread">;

/** Who the shares are of. */
export type Base = "answered" | "asked";

/** What is counted, and how. */
export interface Counted {
  view: TableView;
  archived: boolean;
  of: Base;
}

const inAddress = ({ view, archived, of }: Counted) => ({
  view: JSON.stringify(asked({ filter: view.filter ?? null })),
  archived,
  of,
});

/** Counted again as entries arrive; what was counted before stands until then. */
const LIVE = { placeholderData: keepPreviousData, refetchInterval: 10_000 } as const;

/** All questions, whichever page they are on. */
export const questionsOf = ({ pages }: Figures) => pages.flatMap(({ questions }) => questions);

export const figuresQuery = (id: string, counted: Counted) =>
  queryOptions({
    queryKey: ["figures", id, inAddress(counted)],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/figures", {
          params: { path: { id }, query: inAddress(counted) },
        }),
      ),
    ...LIVE,
  });

/** One question by another: which stands in the rows, which in the columns, what shares are of. */
export interface Pair {
  rows: string;
  columns: string;
  of: "rows" | "columns" | "all";
}

export const crossingQuery = (id: string, counted: Counted, { rows, columns }: Pair) => {
  const { view, archived } = inAddress(counted);
  const query = { view, archived, rows, columns };
  return queryOptions({
    queryKey: ["figures", id, "crossing", query],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/figures-crossing", {
          params: { path: { id }, query },
        }),
      ),
    ...LIVE,
  });
};

export const figuresAddress = (id: string, counted: Counted) => {
  const { view, archived, of } = inAddress(counted);
  const query = new URLSearchParams({ view, archived: String(archived), of });
  return `/api/questionnaires/${id}/figures-export?${query.toString()}`;
};
