/** Changes to dispatch rules: rules to rules. */
import type { Schema } from "../../client/client";
import type { Kind } from "../document";
import type { Subject } from "../subjects";
import { BLANK } from "../condition/edit";
import { keyFrom } from "../keys";

export type Dispatch = Schema<"Dispatch">;
export type Rule = Schema<"Rule">;
export type Act = NonNullable<Rule["acts"]>[number];
export type File = Schema<"FileRow">;
export type Notice = Schema<"Notice">;
export type Register = Schema<"RegisterOut">;

/** Which rule is meant: its position, or what is done otherwise. */
export type RuleSpot = number | "otherwise";

export function actsOf(dispatch: Dispatch, spot: RuleSpot): readonly Act[] {
  if (spot === "otherwise") return dispatch.otherwise ?? [];
  return dispatch.rules?.[spot]?.acts ?? [];
}

export function withRule(dispatch: Dispatch, at: number, change: (rule: Rule) => Rule): Dispatch {
  const rules = (dispatch.rules ?? []).map((rule, other) => (other === at ? change(rule) : rule));
  return { ...dispatch, rules };
}

export function withActs(dispatch: Dispatch, spot: RuleSpot, acts: Act[]): Dispatch {
  if (spot === "otherwise") return { ...dispatch, otherwise: acts };
  return withRule(dispatch, spot, (rule) => ({ ...rule, acts }));
}

export function addRule(dispatch: Dispatch): Dispatch {
  const rules = dispatch.rules ?? [];
  const key = keyFrom("", new Set(rules.map((rule) => rule.key)), "rule");
  return {
    ...dispatch,
    rules: [...rules, { key, when: BLANK, acts: [] }],
  };
}

/** The rule again, below itself. */
export function duplicateRule(dispatch: Dispatch, at: number): Dispatch {
  const rules = dispatch.rules ?? [];
  const rule = rules[at];
  if (!rule) return dispatch;
  const key = keyFrom(rule.key, new Set(rules.map((one) => one.key)), "rule");
  return {
    ...dispatch,
    rules: [...rules.slice(0, at + 1), { ...rule, key }, ...rules.slice(at + 1)],
  };
}

export function removeRule(dispatch: Dispatch, at: number): Dispatch {
  return {
    ...dispatch,
    rules: (dispatch.rules ?? []).filter((_, other) => other !== at),
  };
}

export function moveRule(dispatch: Dispatch, at: number, by: -1 | 1): Dispatch {
  const rules = [...(dispatch.rules ?? [])];
  const [rule] = rules.splice(at, 1);
  if (!rule || at + by < 0) return dispatch;
  rules.splice(at + by, 0, rule);
  return { ...dispatch, rules };
}

/** The column types that take answers of a kind, as the server has it. */
export function fits(type: string | undefined, kind: Kind): boolean {
  if (type === "number") return kind === "number" || kind === "scale";
  if (type === "date") return kind === "date";
  if (type === "yes_no") return kind === "yes_no";
  return true;
}

/** A mapping that takes each column from the item with the same key. */
export function likeNamed(register: Register, subjects: readonly Subject[]): File["columns"] {
  const pairs = register.columns.flatMap(({ key, type }) =>
    subjects.some((subject) => subject.key === key && fits(type, subject.kind))
      ? [[key, key] as const]
      : [],
  );
  return Object.fromEntries(pairs);
}
