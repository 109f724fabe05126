/** The steps of a round on a line of time, with today between those that went and those to come. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import type { Progress, RoundOut, Step } from "./data";
import { people, moments, stateOf, WAYS, written } from "./words";

const Line = styled.ol`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 18px 0;
  margin-block-start: 26px;
`;

const One = styled.li<{ $state: "done" | "latest" | "ahead"; $today: boolean }>`
  position: relative;
  min-width: 0;
  &::before {
    content: "";
    position: absolute;
    inset-inline: 0;
    top: 7px;
    height: 2px;
    background: ${({ $state }) => ($state === "done" ? "var(--accent-mid)" : "var(--line-2)")};
  }
  ${({ $today }) =>
    $today
      ? `&::after {
    content: "today";
    position: absolute;
    top: -17px;
    inset-inline-end: 22%;
    font-size: 12.5px;
    font-weight: 700;
    height: 36px;
    border-inline-end: 2px solid var(--ink);
    padding-inline-end: 5px;
  }`
      : ""}
`;

const Stop = styled.button<{ $state: "done" | "latest" | "ahead" }>`
  display: block;
  position: relative;
  width: 100%;
  background: none;
  border: 0;
  border-radius: 4px;
  padding: 24px 12px 4px 0;
  text-align: start;
  cursor: pointer;
  font-size: 13.5px;
  color: var(--ink-2);
  overflow-wrap: anywhere;
  b {
    font: 600 15px var(--head);
    color: var(--ink);
    display: block;
  }
  span {
    display: block;
  }
  &::before {
    content: "";
    position: absolute;
    inset-inline-start: 0;
    top: 1px;
    width: 14px;
    height: 14px;
    border-radius: 50%;
    border: 2px solid
      ${({ $state }) => ($state === "ahead" ? "var(--line-2)" : "var(--accent-mid)")};
    background: ${({ $state }) =>
      ({ done: "var(--accent-mid)", latest: "var(--accent)", ahead: "var(--chalk)" })[$state]};
    ${({ $state }) =>
      $state === "latest"
        ? "border-color: var(--accent); box-shadow: 0 0 0 4px var(--accent-soft);"
        : ""}
  }
  &[aria-current="step"] b {
    text-decoration: underline;
    text-decoration-thickness: 2px;
    text-underline-offset: 4px;
  }
  &:hover b {
    color: var(--accent);
  }
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: 1px;
  }
`;

interface WhatProps {
  one: RoundOut;
  step: Step;
  first: boolean;
  progress: Progress | undefined;
}

/** How the letters of a step stand: "48 sent, 2 waiting". */
function letters({ way }: Step, counts: Readonly<Record<string, number>>): string {
  const { sent = 0, waiting = 0, failed = 0 } = counts;
  const parts = [
    sent || !waiting ? `${sent} ${way === "mail" ? "sent" : "printed"}` : "",
    waiting ? `${waiting} ${way === "mail" ? "waiting" : "to be printed"}` : "",
    failed ? `${failed} failed` : "",
  ];
  return parts.filter(Boolean).join(", ");
}

/** What of a step went, and what is to come. */
function What({ one, step, first, progress }: WhatProps) {
  const { went, ahead } = moments(one, step);
  const told = progress?.steps.find(({ step: key }) => key === step.key);
  const to = progress?.ahead.filter(({ step: key }) => key === step.key) ?? [];
  const many = to.reduce((sum, { people: some }) => sum + some, 0);
  const wrong = one.faults.some(({ at }) => at.startsWith(`steps/${step.key}`));
  return (
    <>
      {went.length ? (
        <span>
          {went.length > 2 ? `${went[0] ?? ""} to ${went.at(-1) ?? ""}` : went.join(", ")}
        </span>
      ) : null}
      {told && (step.way === "mail" || step.way === "paper") ? (
        <span>{letters(step, told.letters)}</span>
      ) : told ? (
        <span>{people(told.asked)} on the worklist</span>
      ) : null}
      {ahead.length ? (
        <span>
          {step.held ? "held" : (ahead[0] ?? "waits for the one before")}
          {many ? `, to ${many} as things stand` : ""}
        </span>
      ) : null}
      {went.length || ahead.length ? null : <span>{written(step, first)}</span>}
      {wrong ? <b>Cannot go like this</b> : null}
    </>
  );
}

interface TimelineProps {
  one: RoundOut;
  steps: readonly Step[];
  progress: Progress | undefined;
  chosen: string;
  onChoose: (key: string) => void;
  onAdd: (() => void) | undefined;
}

export function Timeline({ one, steps, progress, chosen, onChoose, onAdd }: TimelineProps) {
  return (
    <section aria-label="Steps">
      {steps.length ? (
        <Line>
          {steps.map((step, at) => {
            const state = stateOf(one, step);
            const next = steps[at + 1];
            const today = state === "latest" && (!next || stateOf(one, next) === "ahead");
            return (
              <One key={step.key} $state={state} $today={today}>
                <Stop
                  $state={state}
                  aria-current={step.key === chosen ? "step" : undefined}
                  onClick={() => onChoose(step.key)}
                >
                  <b>{step.name || WAYS[step.way]}</b>
                  <What one={one} step={step} first={!at} progress={progress} />
                </Stop>
              </One>
            );
          })}
        </Line>
      ) : (
        <p>No step yet: a round is made of letters, calls and visits, one after the other.</p>
      )}
      {onAdd ? (
        <Button weight="word" onPress={onAdd}>
          Add a step
        </Button>
      ) : null}
    </section>
  );
}
