/** What the Gate place asks for, and the parts of a gate by their names. */
import { queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";

export type Gate = Schema<"Gate">;
export type Places = Schema<"Places">;
export type Standing = Schema<"GateStandingOut">;
export type Reason = keyof typeof REASONS;

const path = (id: string) => ({ params: { path: { id } } });

export const standing = (id: string) =>
  queryOptions({
    queryKey: ["gate", id, "standing"],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/gate/standing", path(id))),
    refetchInterval: 5000,
  });

export const saveGate = (id: string, body: Schema<"GateBody">) =>
  got(client.PUT("/api/questionnaires/{id}/gate", { ...path(id), body }));

export const atTheGate = (id: string, body: Schema<"SupposedIn">) =>
  queryOptions({
    queryKey: ["gate", id, "at", body],
    queryFn: () => got(client.POST("/api/questionnaires/{id}/gate/at", { ...path(id), body })),
    gcTime: 0,
    retry: false,
  });

export const whoWaits = (id: string) =>
  queryOptions({
    queryKey: ["gate", id, "waiting"],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/gate/waiting", path(id))),
    refetchInterval: 5000,
  });

export const takeOff = (id: string, waiting_id: string) =>
  got(
    client.DELETE("/api/questionnaires/{id}/gate/waiting/{waiting_id}", {
      params: { path: { id, waiting_id } },
    }),
  );

/** What each reason is called by staff, in the order in which they count. */
export const REASONS = {
  shut: "Shut by hand",
  held: "On hold",
  not_yet: "Not open now, opens again",
  over: "The time is over",
  opted_out: "Opted out",
  not_invited: "Not invited",
  answered: "Has answered",
  waiting: "On the waiting list",
  full: "Full",
  gone: "The place went meanwhile",
} as const;

/** The gate's own parts, with what they are where nothing is set. */
export function partsOf(gate: Gate) {
  return {
    times: { windows: [], hours: [], days_off: [], ...gate.times },
    places: gate.places ?? [],
    audience: gate.audience ?? [],
    waiting: { on: false, hours: 48, ...gate.waiting },
    robots: { proof: 0, least: 0, pace: 0, trap: false, ...gate.robots },
    words: gate.words ?? {},
    tell: gate.tell ?? [],
    grace: gate.grace ?? 0,
    hold: gate.hold ?? 0,
    low: gate.low ?? 0,
  };
}

/** A number as it was typed; what is none stays what it was. */
export function numberOr<T extends number | null>(text: string, before: T): number | T {
  const found = Number.parseInt(text, 10);
  return Number.isNaN(found) ? before : Math.max(found, 0);
}
