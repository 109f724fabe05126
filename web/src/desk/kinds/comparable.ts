/** What can be held against what by a check across answers. */
import type { Schema } from "../../client/client";
import { COUNTED, MEASURED, UNORDERED } from "../../client/kinds";
import { holdsOf } from "../condition/words";
import { isFact, type Subject } from "../subjects";
import { RELATIONS } from "./relations";

export type CrossCheck = Schema<"CrossCheck">;
export type Relation = CrossCheck["relation"];

/** Relations that say nothing of more or less. */
const ALIKE: ReadonlySet<Relation> = new Set(["is", "is_not"]);
const EVERY = Object.keys(RELATIONS) as Relation[];

const COUNTED_HERE: ReadonlySet<string> = new Set(COUNTED);
const WITHOUT_ORDER: ReadonlySet<string> = new Set(UNORDERED);

/** What of an answer is compared; parts only with those of the same kind. */
function measureOf(subject: Subject): string {
  const found = MEASURED[holdsOf(subject)];
  return found === "parts" ? subject.kind : found;
}

const isNumber = (subject: Subject) => measureOf(subject) === "number";

/** What can stand beside `subject` in a check. */
export function partnersOf(subject: Subject, subjects: readonly Subject[]): Subject[] {
  return subjects.filter((one) => one.key !== subject.key && measureOf(one) === measureOf(subject));
}

/** The subjects that can be checked: numbers, and those that something can be held against. */
export function checkable(subjects: readonly Subject[]): Subject[] {
  const measured = subjects.filter((one) => !isFact(one) && measureOf(one) !== "nothing");
  return measured
    .filter((one) => isNumber(one) || partnersOf(one, measured).length > 0)
    .map((one) =>
      COUNTED_HERE.has(holdsOf(one)) ? { ...one, label: `how many of ${one.label}` } : one,
    );
}

/** Whether `subject` can be held against a number. */
export const takesNumber = (subject: Subject | undefined): boolean => !subject || isNumber(subject);

/** How `subject` can compare. */
export function relationsOf(subject: Subject | undefined): readonly Relation[] {
  const ordered = !subject || !WITHOUT_ORDER.has(MEASURED[holdsOf(subject)]);
  return ordered ? EVERY : EVERY.filter((one) => ALIKE.has(one));
}

/** `check` about `subject`: what does not suit that gives way to what does. */
export function about(
  check: CrossCheck,
  subject: Subject,
  subjects: readonly Subject[],
): CrossCheck {
  const partners = partnersOf(subject, subjects);
  const relations = relationsOf(subject);
  const relation = relations.includes(check.relation) ? check.relation : "is";
  const stays = check.right
    ? partners.some(({ key }) => key === check.right)
    : isNumber(subject) && check.number != null;
  const other = partners.at(-1)?.key ?? null;
  const against = stays
    ? { right: check.right ?? null, number: check.number ?? null }
    : { right: other, number: other ? null : "1" };
  return { ...check, left: subject.key, relation, ...against };
}
