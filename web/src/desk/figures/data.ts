/** Figures, as the server counts them. */
import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";
import type { paths } from "../../client/schema";
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
  /** What stands beside it, drawn on the same scales. */
  beside?: TableView | undefined;
}

const written = (view: TableView) => JSON.stringify(asked({ filter: view.filter ?? null }));

const inAddress = ({ view, archived, of }: Counted) => ({ view: written(view), archived, of });

/** Counted again as entries arrive; what was counted before stands until then. */
export const LIVE = { placeholderData: keepPreviousData, refetchInterval: 10_000 } as const;

/** All questions, whichever page they are on. */
export const questionsOf = ({ pages }: Figures) => pages.flatMap(({ questions }) => questions);

export const figuresQuery = (id: string, counted: Counted) => {
  const { beside } = counted;
  const query = { ...inAddress(counted), ...(beside ? { beside: written(beside) } : {}) };
  return queryOptions({
    queryKey: ["figures", id, query],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/figures", { params: { path: { id }, query } })),
    ...LIVE,
  });
};

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

type Asked<P extends keyof paths> = NonNullable<
  NonNullable<paths[P] extends { get: { parameters: { query?: infer Q } } } ? Q : never>
>;
export type DataFormat = NonNullable<Asked<"/api/questionnaires/{id}/statistics-export">["format"]>;
export type PictureFormat = NonNullable<Asked<"/api/questionnaires/{id}/figure-picture">["format"]>;
export type CodebookFormat = NonNullable<Asked<"/api/questionnaires/{id}/codebook">["format"]>;

function toTake(place: string, counted: Counted, more: Record<string, string>) {
  const { view, archived } = inAddress(counted);
  const query = { view, archived: String(archived), ...more };
  return `${place}?${new URLSearchParams(query).toString()}`;
}

/** The data of what is counted, with labels in a language. */
export const dataAddress = (id: string, counted: Counted, format: DataFormat, language: string) =>
  toTake(`/api/questionnaires/${id}/statistics-export`, counted, { format, language });

export const codebookAddress = (
  id: string,
  counted: Counted,
  format: CodebookFormat,
  language: string,
) => toTake(`/api/questionnaires/${id}/codebook`, counted, { format, language });

/** One figure, drawn or as numbers, with labels in a language. */
export const pictureAddress = (
  id: string,
  counted: Counted,
  key: string,
  format: PictureFormat,
  language: string,
) =>
  toTake(`/api/questionnaires/${id}/figure-picture`, counted, {
    of: counted.of,
    key,
    format,
    language,
  });

/** All figures as a table. */
export const figuresAddress = (id: string, counted: Counted) =>
  toTake(`/api/questionnaires/${id}/figures-export`, counted, { of: counted.of });
