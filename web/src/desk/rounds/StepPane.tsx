/** The step that is chosen: when it goes, to whom, what it says, and the letter as somebody reads it. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { when } from "../when";
import type { Progress, Step, Which } from "./data";
import { Prints } from "./Prints";
import { StepFields } from "./StepFields";
import type { Editing } from "./useRound";
import { people, WAYS, WHOM, written } from "./words";

const Whole = styled.section`
  display: grid;
  gap: 12px;
  align-content: start;
  min-width: 0;
  h2 {
    font-size: 21px;
    overflow-wrap: anywhere;
  }
  h3 {
    font-size: 15px;
    border-block-start: 1px solid var(--line);
    padding-block-start: 10px;
  }
`;

interface PaneProps {
  editing: Editing;
  step: Step;
  progress: Progress | undefined;
  writes: boolean;
  onWhich: (which: Which) => void;
  onRemove: () => void;
}

function Goes({ editing, step, progress, onWhich }: Omit<PaneProps, "writes" | "onRemove">) {
  const ahead = progress?.ahead.filter((one) => one.step === step.key) ?? [];
  const gone = editing.kept.gone.filter((one) => one.step === step.key);
  const told = progress?.steps.find((one) => one.step === step.key);
  return (
    <>
      {gone.map((run) => (
        <p key={run.portion}>
          Went {when(run.began)} to {people(run.asked)}
          {editing.kept.portions.length > 1 ? `, portion ${run.portion}` : ""}.
        </p>
      ))}
      {told && step.way === "mail" ? (
        <p>
          {told.letters["sent"] ?? 0} sent, {told.letters["waiting"] ?? 0} waiting,{" "}
          {told.letters["left_out"] ?? 0} left out, {told.letters["failed"] ?? 0} failed.
        </p>
      ) : null}
      {step.way === "paper" ? <Prints roundId={editing.kept.id} step={step.key} /> : null}
      {ahead.map((one) => (
        <p key={one.portion}>
          {one.moment ? `Goes ${when(one.moment)}` : "Waits"} to{" "}
          <Button weight="word" onPress={() => onWhich({ ahead: step.key, portion: one.portion })}>
            {people(one.people)}
          </Button>{" "}
          as things stand
          {editing.kept.portions.length > 1 ? `, portion ${one.portion}` : ""}.
        </p>
      ))}
    </>
  );
}

export function StepPane(props: PaneProps) {
  const { editing, step, writes, onRemove } = props;
  const gone = editing.kept.gone.some((one) => one.step === step.key);
  const first = editing.round.steps?.[0]?.key === step.key;
  return (
    <Whole aria-label={step.name || "Step"}>
      <h2>{step.name || "A step without a name"}</h2>
      <Quiet as="p">
        {WAYS[step.way]} to {WHOM[step.to ?? "not_answered"]}, {written(step, first)}.{" "}
        {step.way === "mail"
          ? "Never to who opted out, or whose address letters come back from."
          : "Never to who answered, opted out or refused."}
      </Quiet>
      <Goes {...props} />
      {writes ? <StepFields editing={editing} step={step} /> : null}
      {writes && !gone ? (
        <Button weight="word" onPress={onRemove}>
          Remove this step
        </Button>
      ) : null}
    </Whole>
  );
}
