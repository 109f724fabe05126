/** A condition as a row of comparisons joined by "and" or "or": what the editor works on. */
import type { Schema } from "../../client/client";
import type { Condition, Subject } from "../document";
import { firstOperator, type Operator } from "./words";

export type Comparison = Schema<"Compare"> | Schema<"Answered">;

export interface Row {
  joined: "all" | "any";
  comparisons: readonly Comparison[];
}

function isComparison(condition: Condition): condition is Comparison {
  return "item" in condition && condition.op !== "one_of";
}

/** The condition as a row, null where it is nested deeper than a row. */
export function asRow(condition: Condition): Row | null {
  if (isComparison(condition)) return { joined: "all", comparisons: [condition] };
  if (condition.op !== "all" && condition.op !== "any") return null;
  const comparisons = condition.parts.filter(isComparison);
  return comparisons.length === condition.parts.length
    ? { joined: condition.op, comparisons }
    : null;
}

export function asCondition({ joined, comparisons }: Row): Condition | null {
  const [only, ...others] = comparisons;
  if (!only) return null;
  return others.length ? { op: joined, parts: [only, ...others] } : only;
}

/** The operand that a comparison of `subject` begins with. */
export function firstOperand(subject: Subject): string | boolean {
  if (subject.kind === "yes_no") return true;
  const spare = { number: "1", scale: "1", date: "2026-01-01", time: "12:00" } as const;
  const kind = subject.kind as keyof typeof spare;
  return subject.options[0]?.code ?? (kind in spare ? spare[kind] : "");
}

export function compare(
  subject: Subject,
  op: Operator = firstOperator(subject),
  value?: string | boolean,
): Comparison {
  if (op === "answered" || op === "unanswered") return { op, item: subject.key };
  return { op, item: subject.key, value: value ?? firstOperand(subject) };
}
