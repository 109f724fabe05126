/** Changes to dispatch rules: rules to rules. */
import type { Schema } from "../../client/client";
import { movedTo } from "../../items/movedTo";
import type { Subject } from "../subjects";
import { BLANK } from "../condition/edit";
import { keyFrom } from "../keys";
import { fits } from "../registers/columns";

export type Dispatch = Schema<"Dispatch">;
export type Rule = Schema<"Rule">;
export type StatusRule = Schema<"StatusRule">;
export type Act = NonNullable<Rule["acts"]>[number];
export type File = Schema<"FileRow">;
export type Notice = Schema<"Notice">;
export type Source = NonNullable<File["columns"]>[string];
export type Register = Schema<"RegisterOut">;

/** Rules for what arrives, and those for a status that is reached. */
export type RuleSet = "rules" | "on_status";

/** Which rule is meant: its position among those of its set, or what is done otherwise. */
export type RuleSpot = `${RuleSet}/${number}` | "otherwise";
export type EachSpot = Exclude<RuleSpot, "otherwise">;

export const spotOf = (set: RuleSet, at: number): EachSpot => `${set}/${at}`;

export function placeOf(spot: EachSpot): { set: RuleSet; at: number } {
  const [set, at] = spot.split("/");
  return { set: set as RuleSet, at: Number(at) };
}

export const rulesIn = (dispatch: Dispatch, set: RuleSet): readonly (Rule | StatusRule)[] =>
  dispatch[set] ?? [];

export function ruleAt(dispatch: Dispatch, spot: RuleSpot): Rule | StatusRule | undefined {
  if (spot === "otherwise") return undefined;
  const { set, at } = placeOf(spot);
  return rulesIn(dispatch, set)[at];
}

/** The status on whose being reached a rule acts; none where it does as an entry arrives. */
export const statusOfRule = (rule: Rule | StatusRule | undefined): string | undefined =>
  rule && "status" in rule ? rule.status : undefined;

export function actsOf(dispatch: Dispatch, spot: RuleSpot): readonly Act[] {
  if (spot === "otherwise") return dispatch.otherwise ?? [];
  return ruleAt(dispatch, spot)?.acts ?? [];
}

/** Whether a rule keeps later ones that catch from acting. */
export const catches = (rule: Rule): boolean => rule.catches ?? true;

type Rules = (Rule | StatusRule)[];

/** The rules of a set as others; of one set they are all of one kind. */
function withSet(dispatch: Dispatch, set: RuleSet, change: (rules: Rules) => Rules): Dispatch {
  return { ...dispatch, [set]: change([...rulesIn(dispatch, set)]) };
}

export function withRule(
  dispatch: Dispatch,
  spot: EachSpot,
  change: (rule: Rule) => Rule | StatusRule,
): Dispatch {
  const { set, at } = placeOf(spot);
  return withSet(dispatch, set, (rules) =>
    rules.map((rule, other) => (other === at ? { ...rule, ...change(rule) } : rule)),
  );
}

export function withActs(dispatch: Dispatch, spot: RuleSpot, acts: Act[]): Dispatch {
  if (spot === "otherwise") return { ...dispatch, otherwise: acts };
  return withRule(dispatch, spot, (rule) => ({ ...rule, acts }));
}

function freeKey(dispatch: Dispatch, wanted: string): string {
  const every = [...rulesIn(dispatch, "rules"), ...rulesIn(dispatch, "on_status")];
  return keyFrom(wanted, new Set(every.map((rule) => rule.key)), "rule");
}

export function addRule(dispatch: Dispatch): Dispatch {
  const key = freeKey(dispatch, "");
  return withSet(dispatch, "rules", (rules) => [...rules, { key, when: BLANK, acts: [] }]);
}

/** A rule that acts on every entry that reaches a status, once that is chosen. */
export function addStatusRule(dispatch: Dispatch): Dispatch {
  const key = freeKey(dispatch, "");
  return withSet(dispatch, "on_status", (rules) => [...rules, { key, status: "", acts: [] }]);
}

/** The rule again, below itself. */
export function duplicateRule(dispatch: Dispatch, spot: EachSpot): Dispatch {
  const { set, at } = placeOf(spot);
  return withSet(dispatch, set, (rules) =>
    rules.flatMap((rule, other) =>
      other === at ? [rule, { ...rule, key: freeKey(dispatch, rule.key) }] : [rule],
    ),
  );
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

export function removeRule(dispatch: Dispatch, spot: EachSpot): Dispatch {
  const { set, at } = placeOf(spot);
  return withSet(dispatch, set, (rules) => rules.filter((_, other) => other !== at));
}

export function moveRule(dispatch: Dispatch, spot: EachSpot, by: -1 | 1): Dispatch {
  const { set, at } = placeOf(spot);
  if (at + by < 0) return dispatch;
  return withSet(dispatch, set, (rules) => movedTo(rules, at, at + by));
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
