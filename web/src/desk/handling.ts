/** Statuses and the archive of entries, and who takes care of them, as the desk asks for it. */
import { queryOptions, useQuery } from "@tanstack/react-query";

import { client, got, type Schema } from "../client/client";

const path = (id: string) => ({ params: { path: { id } } });

export const handling = (id: string) =>
  queryOptions({
    queryKey: ["handling", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/statuses", path(id))),
  });

export const saveStatuses = (id: string, body: Schema<"HandlingBody">) =>
  got(client.PUT("/api/questionnaires/{id}/statuses", { ...path(id), body }));

export const handle = (id: string, body: Schema<"HandleIn">) =>
  got(client.POST("/api/questionnaires/{id}/entries/handling", { ...path(id), body }));

/** The key of the status that entries arrive with, which they store as nothing. */
export const FIRST = "first";

export type Looks = Pick<Schema<"Status">, "name"> & {
  glyph: NonNullable<Schema<"Status">["glyph"]>;
  tone: NonNullable<Schema<"Status">["tone"]>;
};

/** A status with all that is left out where it is not said. `stored` is how entries have it. */
export interface Status extends Looks {
  key: string;
  stored: string;
  next: readonly string[] | null;
  days: number | null;
  final: boolean;
}

const whole = (key: string, one: Partial<Schema<"Status">>): Status => ({
  key,
  stored: key === FIRST ? "" : key,
  name: one.name ?? "New",
  glyph: one.glyph ?? (key === FIRST ? "ring" : "dot"),
  tone: one.tone ?? (key === FIRST ? "new" : "plain"),
  next: one.next ?? null,
  days: one.days ?? null,
  final: one.final ?? false,
});

export const everyStatus = ({ first, statuses }: Schema<"Handling">): Status[] => [
  whole(FIRST, first ?? {}),
  ...(statuses ?? []).map((one) => whole(one.key, one)),
];

interface Statuses {
  /** In their order, the first one too; none where the office has named none, or while they are
   * asked for. */
  every: readonly Status[];
  /** The keys of those that one may set. */
  maySet: ReadonlySet<string>;
}

const NONE: Statuses = { every: [], maySet: new Set() };

const asStatuses = (out: Schema<"HandlingOut">): Statuses =>
  out.handling.statuses?.length
    ? { every: everyStatus(out.handling), maySet: new Set(out.may_set) }
    : NONE;

export function useStatuses(id: string): Statuses {
  return useQuery({ ...handling(id), select: asStatuses }).data ?? NONE;
}

export const statusOf = (every: readonly Status[], stored = ""): Status | undefined =>
  every.find((one) => one.stored === stored);

/** Those that an entry may be given by whoever looks, after the one that it has. */
export function following({ every, maySet }: Statuses, stored: string): Status[] {
  const now = statusOf(every, stored);
  return every.filter(
    (one) => one === now || (maySet.has(one.key) && (!now?.next || now.next.includes(one.key))),
  );
}

const DAY = 86_400_000;

/** Whether an entry has its status for longer than it may. */
export function isLate(
  every: readonly Status[],
  { status, since, archived }: Schema<"EntryOut">,
): boolean {
  const now = statusOf(every, status);
  if (!now?.days || now.final || archived) return false;
  return Date.parse(since) + now.days * DAY < Date.now();
}

export const standing = (id: string) =>
  queryOptions({
    queryKey: ["entries", id, "standing"],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/standing", path(id))),
  });

const carers = (id: string) =>
  queryOptions({
    queryKey: ["carers", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/carers", path(id))),
    staleTime: 60_000,
  });

/** Who may be set to take care of entries; nobody while that is asked, or for those who read only. */
export function useCarers(id: string, writes: boolean): Schema<"CarersOut"> {
  return useQuery({ ...carers(id), enabled: writes }).data ?? { people: [], teams: [] };
}

type Care = Schema<"CareOut"> | null | undefined;

const NOBODY = "nobody";

export const careCode = (care: Care): string =>
  care?.person_id ?? (care?.team_id ? `team ${care.team_id}` : NOBODY);

/** The choices of who takes care, with who does now, also where they may not see entries any more. */
export function careOptions({ people, teams }: Schema<"CarersOut">, care: Care) {
  const options = [
    { code: NOBODY, label: "Nobody yet", group: "" },
    ...people.map(({ id, name }) => ({ code: id, label: name, group: "People" })),
    ...teams.map(({ id, name }) => ({ code: `team ${id}`, label: name, group: "Teams" })),
  ];
  const now = careCode(care);
  const there = options.some(({ code }) => code === now);
  return there || !care ? options : [...options, { code: now, label: care.name, group: "" }];
}

export function careOf(code: string): Schema<"CareIn"> {
  if (code === NOBODY) return {};
  return code.startsWith("team ") ? { team_id: code.slice(5) } : { person_id: code };
}
