/** What can be set of a step: when it goes, to whom, what it says; and the letter as it arrives. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { InSentence } from "../../ui/InSentence";
import { Strip } from "../../ui/Strip";
import { Toggle } from "../../ui/Toggle";
import { Quiet } from "../../ui/text";
import { ConditionEditor } from "../condition/ConditionEditor";
import { LetterWords } from "../links/LetterWords";
import { Sentence } from "../gate/Part";
import { usePlaceId } from "../shell/Place";
import { useDoing } from "../useDoing";
import { useContactSubjects } from "./contactSubjects";
import { seeLetter, type Step } from "./data";
import type { Editing } from "./useRound";
import { WAYS, WHOM } from "./words";

const Paper = styled.div`
  display: grid;
  gap: 10px;
  border: 1px solid var(--line);
  border-block-start: 0;
  border-radius: 0 0 4px 4px;
  padding: 12px;
  overflow-wrap: anywhere;
  .button {
    display: inline-block;
    padding: 10px 18px;
    border-radius: 4px;
    background: var(--accent);
    color: var(--on-accent);
    text-decoration: none;
  }
  .small {
    font-size: 13px;
  }
  hr {
    width: 100%;
    border: 0;
    border-top: 1px solid var(--line);
  }
`;

const Head = styled.div`
  background: var(--mist);
  padding: 6px 10px;
  font-size: 13.5px;
  overflow-wrap: anywhere;
`;

interface FieldsProps {
  editing: Editing;
  step: Step;
}

/** A letter as somebody reads it. */
function Letter({ editing, step }: FieldsProps) {
  const id = usePlaceId();
  const seeing = useDoing(() => seeLetter(id, { round: editing.round, step: step.key }));
  const seen = seeing.data;
  return (
    <>
      <div>
        <Button onPress={() => seeing.mutate()}>See it as it arrives</Button>
      </div>
      {seeing.error ? <Strip tone="wrong">{seeing.error.message}</Strip> : null}
      {seen ? (
        <div>
          <Head>
            To <b>{seen.to}</b>, as {seen.called} reads it
            <br />
            {seen.subject}
          </Head>
          <Paper
            role="region"
            aria-label="The letter as it arrives"
            // Clean HTML, made by the server; nothing in it leads anywhere from here.
            inert
            dangerouslySetInnerHTML={{ __html: seen.html }}
          />
        </div>
      ) : null}
    </>
  );
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

/** What a step says: the words of its letter, or what whoever rings or goes says. */
function Says({ editing, step }: FieldsProps) {
  const { languages } = editing.kept;
  const text = step.text ?? { subject: {}, body: {}, per_minute: 60 };
  const [first = "en"] = languages;
  const set = (change: Partial<typeof text>) =>
    editing.setStep(step.key, { text: { ...text, ...change } });
  if (step.way !== "mail") {
    return (
      <Field
        label="What to say"
        lines={6}
        value={step.script?.[first] ?? ""}
        error={editing.faultAt(`steps/${step.key}/script/${first}`)}
        help="Whoever rings or goes reads it. {contact.name} and the like stand for what is known."
        onChange={(words) =>
          editing.setStep(step.key, { script: { ...step.script, [first]: words } })
        }
      />
    );
  }
  return (
    <>
      <LetterWords
        languages={languages}
        subject={text.subject}
        body={text.body}
        onSubject={(subject) => set({ subject })}
        onBody={(body) => set({ body })}
        errorAt={(at) => editing.faultAt(`steps/${step.key}/text/${at}`)}
      />
      <Sentence>
        At most
        <InSentence
          name="Letters a minute"
          type="number"
          min={1}
          max={600}
          value={String(text.per_minute ?? 60)}
          onChange={(typed) => set({ per_minute: Math.min(Math.max(Number(typed) || 1, 1), 600) })}
        />
        a minute, and
        <InSentence
          name="Letters a minute to one receiving domain"
          type="number"
          min={0}
          max={600}
          value={String(text.per_domain ?? "")}
          placeholder="any"
          onChange={(typed) =>
            set({ per_domain: typed ? Math.min(Math.max(Number(typed) || 1, 1), 600) : null })
          }
        />
        to one receiving domain
      </Sentence>
      <Letter editing={editing} step={step} />
    </>
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
      <h3>{step.way === "mail" ? "The letter" : "The script"}</h3>
      <Says editing={editing} step={step} />
    </>
  );
}
