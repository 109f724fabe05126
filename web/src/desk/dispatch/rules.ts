/** Changes to dispatch rules: rules to rules. */
import type { Schema } from "../../client/client";
import type { Subject } from "../subjects";
import { BLANK } from "../condition/edit";
import { keyFrom } from "../keys";
import { fits } from "../registers/columns";

export type Dispatch = Schema<"Dispatch">;
export type Rule = Schema<"Rule">;
export type Act = NonNullable<Rule["acts"]>[number];
export type File = Schema<"FileRow">;
export type Notice = Schema<"Notice">;
export type Source = NonNullable<File["columns"]>[string];
export type Register = Schema<"RegisterOut">;

/** Which rule is meant: its position, or what is done otherwise. */
export type RuleSpot = number | "otherwise";

export const ruleAt = (dispatch: Dispatch, spot: RuleSpot): Rule | undefined =>
  spot === "otherwise" ? undefined : dispatch.rules?.[spot];

export function actsOf(dispatch: Dispatch, spot: RuleSpot): readonly Act[] {
  if (spot === "otherwise") return dispatch.otherwise ?? [];
  return dispatch.rules?.[spot]?.acts ?? [];
}

/** Whether a rule keeps later ones that catch from acting. */
export const catches = (rule: Rule): boolean => rule.catches ?? true;

export function withRule(dispatch: Dispatch, at: number, change: (rule: Rule) => Rule): Dispatch {
  const rules = (dispatch.rules ?? []).map((rule, other) => (other === at ? change(rule) : rule));
  return { ...dispatch, rules };
}

export function withActs(dispatch: Dispatch, spot: RuleSpot, acts: Act[]): Dispatch {
  if (spot === "otherwise") return { ...dispatch, otherwise: acts };
  return withRule(dispatch, spot, (rule) => ({ ...rule, acts }));
}

function freeKey(dispatch: Dispatch, wanted: string): string {
  return keyFrom(wanted, new Set((dispatch.rules ?? []).map((rule) => rule.key)), "rule");
}

export function addRule(dispatch: Dispatch): Dispatch {
  const key = freeKey(dispatch, "");
  return { ...dispatch, rules: [...(dispatch.rules ?? []), { key, when: BLANK, acts: [] }] };
}

/** The rule again, below itself. */
export function duplicateRule(dispatch: Dispatch, at: number): Dispatch {
  const rules = dispatch.rules ?? [];
  const rule = rules[at];
  if (!rule) return dispatch;
  const again = { ...rule, key: freeKey(dispatch, rule.key) };
  return { ...dispatch, rules: [...rules.slice(0, at + 1), again, ...rules.slice(at + 1)] };
}

/** Rules of another questionnaire behind those that are there. */
export function withCopies(dispatch: Dispatch, copied: readonly Rule[]): Dispatch {
  return copied.reduce(
    (whole, rule) => ({
      ...whole,
      rules: [...(whole.rules ?? []), { ...rule, key: freeKey(whole, rule.key) }],
    }),
    dispatch,
  );
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

/** A mapping that takes each column from the item with the same key. */
export function likeNamed(
  register: Register,
  subjects: readonly Subject[],
): NonNullable<File["columns"]> {
  const pairs = register.columns.flatMap(({ key, type }) =>
    subjects.some((subject) => subject.key === key && fits(type, subject))
      ? [[key, { kind: "entry", name: key } as const] as const]
      : [],
  );
  return Object.fromEntries(pairs);
}

/** A notice in which nothing is said yet. */
export const emptyNotice: Notice = { kind: "notice", to: { kind: "address", address: "" } };
