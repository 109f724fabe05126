/** What a step says: the words of its letter, or what whoever rings or goes says. */
import { Field } from "../../ui/Field";
import { InSentence } from "../../ui/InSentence";
import { Sentence } from "../gate/Part";
import { FASTEST } from "../links/data";
import { LetterWords } from "../links/LetterWords";
import { SeenLetter } from "../links/SeenLetter";
import { usePlaceId } from "../shell/Place";
import { useDoing } from "../useDoing";
import { seeLetter, type Step } from "./data";
import { PaperFields } from "./PaperFields";
import type { Editing } from "./useRound";

interface WordsProps {
  editing: Editing;
  step: Step;
}

function Script({ editing, step }: WordsProps) {
  const [first = "en"] = editing.kept.languages;
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

const EMPTY: NonNullable<Step["text"]> = { subject: {}, body: {}, per_minute: 60 };

function Pace({ editing, step }: WordsProps) {
  const text = step.text ?? EMPTY;
  const set = (change: Partial<typeof text>) =>
    editing.setStep(step.key, { text: { ...text, ...change } });
  const within = (typed: string) => Math.min(Math.max(Number(typed) || 1, 1), FASTEST);
  return (
    <Sentence>
      At most
      <InSentence
        name="Letters a minute"
        type="number"
        min={1}
        max={FASTEST}
        value={String(text.per_minute ?? 60)}
        onChange={(typed) => set({ per_minute: within(typed) })}
      />
      a minute, and
      <InSentence
        name="Letters a minute to one receiving domain"
        type="number"
        min={0}
        max={FASTEST}
        value={String(text.per_domain ?? "")}
        placeholder="any"
        onChange={(typed) => set({ per_domain: typed ? within(typed) : null })}
      />
      to one receiving domain
    </Sentence>
  );
}

export function StepWords({ editing, step }: WordsProps) {
  const id = usePlaceId();
  const seeing = useDoing(() => seeLetter(id, { round: editing.round, step: step.key }));
  if (step.way !== "mail" && step.way !== "paper") return <Script editing={editing} step={step} />;
  const text = step.text ?? EMPTY;
  const set = (change: Partial<typeof text>) =>
    editing.setStep(step.key, { text: { ...text, ...change } });
  return (
    <>
      <LetterWords
        languages={editing.kept.languages}
        subject={text.subject}
        body={text.body}
        onSubject={(subject) => set({ subject })}
        onBody={(body) => set({ body })}
        errorAt={(at) => editing.faultAt(`steps/${step.key}/text/${at}`)}
      />
      {step.way === "paper" ? (
        <PaperFields editing={editing} step={step} />
      ) : (
        <>
          <Pace editing={editing} step={step} />
          <SeenLetter seeing={seeing} />
        </>
      )}
    </>
  );
}
