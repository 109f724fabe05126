/** Answers as the page holds and sends them, and where inside them something stands. */
import type { ComponentType } from "react";

import type { Fault, Schema } from "../client/client";

export type Item = Schema<"QuestionOut">;

export type Answer =
  string | number | boolean | null | readonly Answer[] | { readonly [key: string]: Answer };

export type Line = Readonly<Record<string, Answer>>;

export interface QuestionProps {
  item: Item;
  /** Where it stands: its key, or inside others such as `wells/0/depth`. */
  at: string;
  answer: Answer;
  /** What is wrong at this place and inside it. */
  faults: readonly Fault[];
  /** The new answer; `place` tells what of it was changed. */
  onAnswer: (answer: Answer, place: string) => void;
  /** The respondent has left this place. */
  onLeave: (item: Item, place: string, answer: Answer) => void;
}

/** A question that holds others, and how those are drawn. */
export interface HoldingProps extends QuestionProps {
  Inner: ComponentType<QuestionProps>;
}

export function errorAt(faults: readonly Fault[], at: string): string | undefined {
  return faults.find((fault) => fault.at === at)?.message;
}

export function isWithin(place: string, at: string): boolean {
  return place === at || place.startsWith(`${at}/`);
}

const NONE: readonly Fault[] = [];

/** The faults at `at` and inside of it; where there are none, the same list each time. */
export function faultsIn(faults: readonly Fault[], at: string): readonly Fault[] {
  if (!faults.length) return NONE;
  const found = faults.filter((fault) => isWithin(fault.at, at));
  return found.length ? found : NONE;
}

/** The identity of the field at a place. */
export function fieldOf(at: string): string {
  return `item-${at}`;
}

export function words(answer: Answer): string {
  return typeof answer === "string" ? answer : typeof answer === "number" ? String(answer) : "";
}

export function list(answer: Answer): readonly Answer[] {
  return Array.isArray(answer) ? (answer as readonly Answer[]) : [];
}

export function map(answer: Answer | undefined): Line {
  return typeof answer === "object" && answer !== null && !Array.isArray(answer)
    ? (answer as Line)
    : {};
}

/** Maps in a list: the entries of a roster, the lines of a row. */
export function lines(answer: Answer | undefined): readonly Line[] {
  return list(answer ?? null).map(map);
}

/** The words of something else, null where that is not picked. */
export function elseOf(answer: Answer): string | null {
  const found = map(answer)["else"];
  return found === undefined ? null : words(found);
}

export function isEmpty(answer: Answer | undefined): boolean {
  if (answer === undefined || answer === null) return true;
  if (typeof answer === "string") return !answer.trim();
  if (Array.isArray(answer)) return answer.every((one: Answer) => isEmpty(one));
  return typeof answer === "object" && Object.values(answer).every((one) => isEmpty(one));
}
