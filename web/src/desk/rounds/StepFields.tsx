/** What can be set of a step: when it goes, to whom, what it says. */
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { InSentence } from "../../ui/InSentence";
import { Strip } from "../../ui/Strip";
import { Toggle } from "../../ui/Toggle";
import { Quiet } from "../../ui/text";
import { ConditionEditor } from "../condition/ConditionEditor";
import { Sentence } from "../gate/Part";
import { useContactSubjects } from "./contactSubjects";
import type { Step } from "./data";
import { StepWords } from "./StepWords";
import type { Editing } from "./useRound";
import { WAYS, WHOM } from "./words";

interface FieldsProps {
  editing: Editing;
  step: Step;
}

function When({ editing, step, first }: { editing: Editing; step: Step; first: boolean }) {
  const set = (change: Partial<Step>) => editing.setStep(step.key, change);
  const days = (step.after ?? 168) / 24;
  return (
    <Sentence>
      <Choose
        name="When it goes"
        value={step.at ? "at" : "after"}
        options={[
          { code: "after", label: first ? "After the release" : "After the step before" },
          { code: "at", label: "At a moment" },
        ]}
        onChange={(code) =>
          set({ at: code === "at" ? `${new Date().toISOString().slice(0, 10)}T10:00` : null })
        }
      />
      {step.at ? (
        <>
          <InSentence
            name="Moment"
            type="datetime-local"
            value={step.at}
            onChange={(at) => set({ at: at || null })}
          />
          <Quiet>{editing.kept.zone}</Quiet>
        </>
      ) : (
        <>
          by
          <InSentence
            name="Days"
            type="number"
            min={0}
            max={400}
            value={String(days)}
            onChange={(text) => set({ after: Math.round(Math.max(Number(text) || 0, 0) * 24) })}
          />
          {days === 1 ? "day" : "days"}
        </>
      )}
    </Sentence>
  );
}

/** What can be set of a step. */
export function StepFields({ editing, step }: FieldsProps) {
  const subjects = useContactSubjects();
  const steps = editing.round.steps ?? [];
  const gone = editing.kept.gone.some((one) => one.step === step.key);
  const set = (change: Partial<Step>) => editing.setStep(step.key, change);
  const wrong = editing.faultAt(`steps/${step.key}/only`);
  return (
    <>
      <Field label="Name" value={step.name} maxLength={80} onChange={(name) => set({ name })} />
      {gone ? null : (
        <>
          <Sentence>
            <Choose
              name="Way"
              value={step.way}
              options={Object.entries(WAYS).map(([code, label]) => ({ code, label }))}
              onChange={(way) => set({ way: way as Step["way"] })}
            />
            to
            <Choose
              name="To whom"
              value={step.to ?? "not_answered"}
              options={Object.entries(WHOM).map(([code, label]) => ({ code, label }))}
              onChange={(to) => set({ to: to as NonNullable<Step["to"]> })}
            />
          </Sentence>
          <When editing={editing} step={step} first={steps[0]?.key === step.key} />
        </>
      )}
      <ConditionEditor
        condition={step.only ?? null}
        subjects={subjects}
        none="Whoever of them it is."
        onChange={(only) => set({ only })}
      />
      {wrong ? <Strip tone="wrong">{wrong}</Strip> : null}
      <Toggle isSelected={step.held ?? false} onChange={(held) => set({ held })}>
        Hold this step, and those after it
      </Toggle>
      <h3>{step.way === "mail" || step.way === "paper" ? "The letter" : "The script"}</h3>
      <StepWords editing={editing} step={step} />
    </>
  );
}
