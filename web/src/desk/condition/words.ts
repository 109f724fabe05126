/** Conditions as sentences. */
import { KINDS, OPERATORS } from "../../client/kinds";
import type { Condition } from "../document";
import type { Subject } from "../subjects";

/** What an answer can be asked; whether there is one can be asked of any. */
export type Operator =
  (typeof OPERATORS)[keyof typeof OPERATORS][number] | "answered" | "unanswered";

const WORDS: Record<Operator, string> = {
  is: "is",
  is_not: "is not",
  one_of: "is one of",
  includes: "includes",
  includes_all: "includes all of",
  at_least: "is at least",
  at_most: "is at most",
  more_than: "is more than",
  less_than: "is less than",
  between: "is between",
  contains: "contains",
  like: "is like the pattern",
  any_entry: "has an entry where",
  every_entry: "has only entries where",
  entry_count: "has",
  answered: "has an answer",
  unanswered: "has no answer",
};

const OF_DAYS: Partial<Record<Operator, string>> = {
  at_least: "is not before",
  at_most: "is not after",
  more_than: "is after",
  less_than: "is before",
};

/** What an answer to `subject` holds. */
export function holdsOf({ kind, options }: Subject): keyof typeof OPERATORS {
  const { holds } = KINDS[kind];
  if (holds === "carried") return options.length ? "pick" : "text";
  return holds === "computed" ? "text" : holds;
}

export const isTimed = (subject: Subject): boolean =>
  ["day", "time", "moment"].includes(holdsOf(subject));

export function operatorWords(op: Operator, subject: Subject | undefined): string {
  if (subject && isTimed(subject)) return OF_DAYS[op] ?? WORDS[op];
  if (op === "one_of" && subject?.kind === "pick_many") return "includes any of";
  return WORDS[op];
}

/** The operator that a comparison of `subject` begins with. */
export function firstOperator(subject: Subject): Operator {
  return operatorsFor(subject)[0] ?? "answered";
}

/** What can be asked of `subject` here: one of several only where there are some to choose from. */
function comparing(subject: Subject): Operator[] {
  const found: readonly Operator[] = OPERATORS[holdsOf(subject)];
  return found.filter((op) => op !== "one_of" || subject.options.length > 0);
}

export function operatorsFor(subject: Subject | undefined): Operator[] {
  return [...(subject ? comparing(subject) : ["is" as const]), "answered", "unanswered"];
}

/** `today-7` in words. */
function dayInWords(day: string): string {
  const [, by = ""] = /^today([+-]\d+)?$/.exec(day) ?? [undefined, day];
  if (!day.startsWith("today")) return day;
  const days = Math.abs(Number(by));
  if (!days) return "today";
  return `${days} ${days === 1 ? "day" : "days"} ${Number(by) < 0 ? "ago" : "from today"}`;
}

function value(subject: Subject | undefined, operand: string | boolean): string {
  if (operand === "") return "…";
  if (typeof operand === "boolean") return operand ? "Yes" : "No";
  if (subject && isTimed(subject)) return dayInWords(operand);
  return subject?.options.find(({ code }) => code === operand)?.label ?? operand;
}

const ENTRIES = (number: number) => (number === 1 ? "1 entry" : `${number} entries`);

/** How many entries: "at least 2 entries". */
function countInWords(low: number | null | undefined, high: number | null | undefined) {
  if (low != null && low === high) return ENTRIES(low);
  if (low != null && high != null) return `${low} to ${ENTRIES(high)}`;
  return high == null ? `at least ${ENTRIES(low ?? 0)}` : `at most ${ENTRIES(high)}`;
}

export function sentence(condition: Condition, subjects: readonly Subject[]): string {
  const named = (key: string) => subjects.find((subject) => subject.key === key);
  const inside = (part: Condition): string =>
    part.op === "all" || part.op === "any"
      ? `(${sentence(part, subjects)})`
      : sentence(part, subjects);
  if (condition.op === "all") return condition.parts.map(inside).join(" and ");
  if (condition.op === "any") return condition.parts.map(inside).join(" or ");
  if (condition.op === "not") return `not ${inside(condition.part)}`;
  if (condition.op === "saved") return named(`saved:${condition.name}`)?.label ?? condition.name;
  if (!condition.item) return "something not chosen yet";
  const subject = named(condition.item);
  const lead = `${subject?.label ?? condition.item} ${operatorWords(condition.op, subject)}`;
  const within = [...subjects, ...(subject?.inner ?? [])];
  switch (condition.op) {
    case "answered":
    case "unanswered":
      return lead;
    case "one_of":
    case "includes_all":
      return `${lead} ${condition.values.map((one) => value(subject, one)).join(", ")}`;
    case "between":
      return `${lead} ${value(subject, condition.low)} and ${value(subject, condition.high)}`;
    case "any_entry":
    case "every_entry":
      return `${lead} ${sentence(condition.where, within)}`;
    case "entry_count": {
      const many = countInWords(condition.at_least, condition.at_most);
      const rest = condition.where ? ` where ${sentence(condition.where, within)}` : "";
      return `${lead} ${many}${rest}`;
    }
    default:
      return `${lead} ${value(subject, condition.value)}`;
  }
}
