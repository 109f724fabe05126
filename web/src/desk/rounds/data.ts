/** What the Rounds place asks for, and what it changes. */
import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";

export type RoundOut = Schema<"RoundOut">;
export type Round = Schema<"Round">;
export type Step = NonNullable<Round["steps"]>[number];
export type Progress = Schema<"RoundProgressOut">;
export type Named = Schema<"PersonAskedOut">;
export type Standing = Named["stands"];
export type Outcome = Schema<"ToldIn">["outcome"];

const at = (id: string, roundId: string) => ({ params: { path: { id, round_id: roundId } } });

export const ROUNDS = (id: string) => ["rounds", id] as const;

/** Milliseconds between two looks while something goes out, or is about to, and else. */
const [SOON, LATER] = [2_000, 15_000];

const isDue = ({ moment }: { moment: string | null }): boolean =>
  moment !== null && new Date(moment).getTime() < Date.now() + LATER;

export const roundsOf = (id: string) =>
  queryOptions({
    queryKey: [...ROUNDS(id), "list"],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/rounds", { params: { path: { id } } })),
  });

export const roundQuery = (id: string, roundId: string) =>
  queryOptions({
    queryKey: [...ROUNDS(id), roundId, "round"],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/rounds/{round_id}", at(id, roundId))),
    refetchInterval: ({ state }) => (state.data?.ahead.some(isDue) ? SOON : LATER),
  });

export const progressQuery = (id: string, roundId: string) =>
  queryOptions({
    queryKey: [...ROUNDS(id), roundId, "progress"],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/rounds/{round_id}/progress", at(id, roundId))),
    refetchInterval: ({ state: { data } }) =>
      data?.steps.some(({ letters }) => letters["waiting"]) || data?.ahead.some(isDue)
        ? SOON
        : LATER,
  });

/** Those behind a number: as they stand now or did after a step, or to whom a step will go. */
export interface Which {
  stands?: Standing;
  code?: string;
  stratum?: string;
  after_step?: string;
  ahead?: string;
  portion?: number;
}

export const namesQuery = (id: string, roundId: string, which: Which) =>
  infiniteQueryOptions({
    queryKey: [...ROUNDS(id), roundId, "names", which],
    queryFn: ({ pageParam }) =>
      got(
        client.GET("/api/questionnaires/{id}/rounds/{round_id}/people", {
          params: {
            path: { id, round_id: roundId },
            query: { ...which, behind: pageParam },
          },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: ({ people, more }) => (more ? people.at(-1)?.number : undefined),
  });

export const personQuery = (id: string, roundId: string, contactId: string) =>
  queryOptions({
    queryKey: [...ROUNDS(id), roundId, "person", contactId],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/rounds/{round_id}/people/{contact_id}", {
          params: { path: { id, round_id: roundId, contact_id: contactId } },
        }),
      ),
  });

export const dispositions = queryOptions({
  queryKey: ["dispositions"],
  queryFn: () => got(client.GET("/api/dispositions")),
  staleTime: Infinity,
});

export const makeRound = (id: string, body: Round) =>
  got(client.POST("/api/questionnaires/{id}/rounds", { params: { path: { id } }, body }));

export const saveRound = (id: string, roundId: string, revision: number, round: Round) =>
  got(
    client.PUT("/api/questionnaires/{id}/rounds/{round_id}", {
      ...at(id, roundId),
      body: { revision, round },
    }),
  );

export const removeRound = (id: string, roundId: string) =>
  got(client.DELETE("/api/questionnaires/{id}/rounds/{round_id}", at(id, roundId)));

export const seeSample = (id: string, body: Round) =>
  got(client.POST("/api/questionnaires/{id}/rounds/sample", { params: { path: { id } }, body }));

export const seeLetter = (id: string, body: Schema<"StepLetterIn">) =>
  got(client.POST("/api/questionnaires/{id}/rounds/letter", { params: { path: { id } }, body }));

/** The address of a picture of a letter as it is printed; whoever asks lets go of it. */
export const seeSheet = async (id: string, body: Schema<"StepLetterIn">): Promise<string> => {
  const picture = await got(
    client.POST("/api/questionnaires/{id}/rounds/sheet", {
      params: { path: { id } },
      body,
      parseAs: "blob",
    }),
  );
  return URL.createObjectURL(picture);
};

export type OnPaper = Schema<"OnPaperOut">;

export const onPaper = (id: string, roundId: string) =>
  queryOptions({
    queryKey: [...ROUNDS(id), roundId, "paper"],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/rounds/{round_id}/paper", at(id, roundId))),
    refetchInterval: LATER,
  });

export const printLetters = (id: string, roundId: string, mailingId: string) =>
  got(
    client.POST("/api/questionnaires/{id}/rounds/{round_id}/paper/{mailing_id}/print", {
      params: { path: { id, round_id: roundId, mailing_id: mailingId } },
    }),
  );

export const printAddress = (id: string, roundId: string, mailingId: string, type: string) =>
  `/api/questionnaires/${id}/rounds/${roundId}/paper/${mailingId}/${type}`;

export const drawPeople = (id: string, roundId: string, seed: string) =>
  got(
    client.POST("/api/questionnaires/{id}/rounds/{round_id}/draw", {
      ...at(id, roundId),
      body: { seed },
    }),
  );

export const releasePortion = (id: string, roundId: string) =>
  got(client.POST("/api/questionnaires/{id}/rounds/{round_id}/release", at(id, roundId)));

export const stopRound = (id: string, roundId: string, stopped: boolean) =>
  got(
    client.PUT("/api/questionnaires/{id}/rounds/{round_id}/stopped", {
      ...at(id, roundId),
      body: { stopped },
    }),
  );

export const codePerson = (
  id: string,
  roundId: string,
  contactId: string,
  body: Schema<"DispositionIn">,
) =>
  got(
    client.PUT("/api/questionnaires/{id}/rounds/{round_id}/people/{contact_id}/code", {
      params: { path: { id, round_id: roundId, contact_id: contactId } },
      body,
    }),
  );

export const worklistQuery = (id: string, roundId: string) =>
  queryOptions({
    queryKey: [...ROUNDS(id), roundId, "worklist"],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/rounds/{round_id}/worklist", at(id, roundId))),
    refetchInterval: 20_000,
  });

export const takeNext = (id: string, roundId: string) =>
  got(client.POST("/api/questionnaires/{id}/rounds/{round_id}/worklist/next", at(id, roundId)));

export const tellOutcome = (id: string, roundId: string, body: Schema<"ToldIn">) =>
  got(
    client.POST("/api/questionnaires/{id}/rounds/{round_id}/worklist/outcome", {
      ...at(id, roundId),
      body,
    }),
  );

export const enterFor = (id: string, roundId: string, contactId: string) =>
  got(
    client.POST("/api/questionnaires/{id}/rounds/{round_id}/worklist/enter", {
      ...at(id, roundId),
      body: { contact_id: contactId },
    }),
  );

export const putBack = (id: string, roundId: string) =>
  got(client.DELETE("/api/questionnaires/{id}/rounds/{round_id}/worklist", at(id, roundId)));
