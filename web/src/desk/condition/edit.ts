/** A condition as the groups and comparisons that the editor works on, and back. */
import type { Schema } from "../../client/client";
import type { Condition } from "../document";
import type { Subject } from "../subjects";
import { firstOperator, type Operator } from "./words";

export type Comparison = Exclude<Condition, Schema<"AllOf"> | Schema<"AnyOf"> | Schema<"Not">>;

/** Parts that are joined by "and" or by "or"; negated where that is not to hold. */
export interface Group {
  joined: "all" | "any";
  negated: boolean;
  parts: readonly Part[];
}

export type Part = Comparison | Group;

export const isGroup = (part: Part): part is Group => "joined" in part;

const EMPTY: Group = { joined: "all", negated: false, parts: [] };

export function asGroup(condition: Condition | null | undefined): Group {
  if (!condition) return EMPTY;
  const part = asPart(condition);
  return isGroup(part) ? part : { ...EMPTY, parts: [part] };
}

function asPart(condition: Condition): Part {
  if (condition.op === "not") {
    const inner = asPart(condition.part);
    if (isGroup(inner) && !inner.negated) return { ...inner, negated: true };
    return { joined: "any", negated: true, parts: [inner] };
  }
  if (condition.op !== "all" && condition.op !== "any") return condition;
  return { joined: condition.op, negated: false, parts: condition.parts.map(asPart) };
}

/** What the editor holds as a condition; a single comparison needs no group around it. */
export function asCondition(group: Group): Condition | null {
  const [only, ...others] = group.parts;
  if (only && !others.length && !group.negated) {
    return isGroup(only) ? asCondition(only) : only;
  }
  return inFull(group);
}

function inFull(group: Group): Condition | null {
  const parts = group.parts.map((part) => (isGroup(part) ? inFull(part) : part));
  const [first, ...rest] = parts.filter((part) => part !== null);
  if (!first) return null;
  if (group.negated && !rest.length) return { op: "not", part: first };
  const whole: Condition = { op: group.joined, parts: [first, ...rest] };
  return group.negated ? { op: "not", part: whole } : whole;
}

/** The operands that a comparison has, to be kept where another operator takes them too. */
function operandsOf(comparison: Comparison | undefined): readonly (string | boolean)[] {
  if (!comparison) return [];
  if ("value" in comparison) return [comparison.value];
  if ("values" in comparison) return comparison.values;
  return "low" in comparison ? [comparison.low, comparison.high] : [];
}

/** A comparison in which nothing is chosen yet. */
export const BLANK: Comparison = { op: "is", item: "", value: "" };

/** A comparison of `subject` by `op`, with what `before` was compared with where that fits. */
export function compare(
  subject: Subject,
  op: Operator = firstOperator(subject),
  before?: Comparison,
): Comparison {
  const item = subject.key;
  const [first = "", second = first] = operandsOf(before);
  switch (op) {
    case "answered":
    case "unanswered":
      return { op, item };
    case "between":
      return { op, item, low: String(first), high: String(second) };
    case "one_of":
    case "includes_all": {
      const [one, ...others] = operandsOf(before);
      return { op, item, values: [one ?? first, ...others] };
    }
    case "any_entry":
    case "every_entry":
      return { op, item, where: whereOf(before) ?? BLANK };
    case "entry_count":
      return { op, item, where: whereOf(before), at_least: 1, at_most: null };
    default:
      return { op, item, value: first };
  }
}

function whereOf(before: Comparison | undefined): Condition | null {
  return before && "where" in before ? (before.where ?? null) : null;
}
