/** Conditions as sentences. */
import type { Condition, Subject } from "../document";

export type Operator =
  "is" | "is_not" | "includes" | "at_least" | "at_most" | "answered" | "unanswered";

export const OPERATORS: Record<Operator, string> = {
  is: "is",
  is_not: "is not",
  includes: "includes",
  at_least: "is at least",
  at_most: "is at most",
  answered: "has an answer",
  unanswered: "has no answer",
};

const ORDERED = new Set<Subject["kind"]>(["number", "scale", "date", "time"]);

/** The operator that a comparison of `subject` begins with. */
export function firstOperator(subject: Subject): Operator {
  if (IN_PARTS.has(subject.kind)) return "answered";
  return subject.kind === "pick_many" ? "includes" : "is";
}

/** Answers in parts: only whether they are there can be asked. */
const IN_PARTS = new Set<Subject["kind"]>([
  "rank",
  "name",
  "address",
  "file",
  "signature",
  "grid",
  "roster",
  "date_time",
]);

export function operatorsFor(subject: Subject | undefined): Operator[] {
  if (subject && IN_PARTS.has(subject.kind)) return ["answered", "unanswered"];
  if (subject?.kind === "pick_many") return ["includes", "answered", "unanswered"];
  if (subject && ORDERED.has(subject.kind)) {
    return ["is", "is_not", "at_least", "at_most", "answered", "unanswered"];
  }
  return ["is", "is_not", "answered", "unanswered"];
}

function value(subject: Subject | undefined, operand: string | boolean): string {
  if (typeof operand === "boolean") return operand ? "Yes" : "No";
  return subject?.options.find(({ code }) => code === operand)?.label ?? operand;
}

export function sentence(condition: Condition, subjects: readonly Subject[]): string {
  const named = (key: string) => subjects.find((subject) => subject.key === key);
  const label = (key: string) => named(key)?.label ?? key;
  const inside = (part: Condition): string =>
    part.op === "all" || part.op === "any"
      ? `(${sentence(part, subjects)})`
      : sentence(part, subjects);
  switch (condition.op) {
    case "all":
      return condition.parts.map(inside).join(" and ");
    case "any":
      return condition.parts.map(inside).join(" or ");
    case "not":
      return `not ${inside(condition.part)}`;
    case "one_of":
      return `${label(condition.item)} is one of ${condition.values
        .map((one) => value(named(condition.item), one))
        .join(", ")}`;
    case "answered":
    case "unanswered":
      return `${label(condition.item)} ${OPERATORS[condition.op]}`;
    default:
      return `${label(condition.item)} ${OPERATORS[condition.op]} ${value(
        named(condition.item),
        condition.value,
      )}`;
  }
}
