/** What a page to share says and shows: its title, what is counted, and what is on it. */
import { dequal } from "dequal";
import { useState } from "react";

import { Button } from "../../../ui/Button";
import { Field } from "../../../ui/Field";
import { InSentence } from "../../../ui/InSentence";
import { Picker } from "../../../ui/Picker";
import { Actions } from "../../../ui/Sheet";
import { Strip } from "../../../ui/Strip";
import { faultAt, otherFault } from "../../useDoing";
import { FilterPart } from "../../views/FilterPart";
import { endOf, lastDay } from "../../when";
import { CountedWords } from "../CountedWords";
import { Said } from "../Said";
import type { Around } from "./around";
import type { Content, Given } from "./data";
import { PartsEditor, type Placed } from "./PartsEditor";

const LIVE = [
  { code: "live", label: "follow what arrives" },
  { code: "then", label: "stay as they are when it is saved" },
];

interface PageFormProps {
  given: Given;
  around: Around;
  /** What the button says that keeps it. */
  keep: string;
  /** Whether `given` is what was kept from here. */
  kept?: boolean;
  error: Error | null;
  isPending: boolean;
  onKeep: (given: Given) => void;
}

const partAt = (at: number) => `parts[${at}]`;

/** What has to be written yet, by where it stands. */
function missingIn({ title, parts }: Content): Record<string, string> {
  const found: Record<string, string> = {};
  if (!title.trim()) found["title"] = "Give the page a title.";
  parts.forEach((part, at) => {
    if (part.kind === "words" && !part.words.trim()) {
      found[partAt(at)] = "Write something here, or remove it.";
    }
  });
  return found;
}

/** Once it is drawn what is missing. */
const focusFirst = (form: HTMLFormElement) =>
  requestAnimationFrame(() => form.querySelector<HTMLElement>("[aria-invalid=true]")?.focus());

const placed = (parts: Content["parts"]): readonly Placed[] =>
  parts.map((part, id) => ({ id, part }));

export function PageForm(props: PageFormProps) {
  const { given, around, keep, kept = false, error, isPending, onKeep } = props;
  const [content, setContent] = useState(given.content);
  const [parts, setParts] = useState(() => placed(given.content.parts));
  const [live, setLive] = useState(given.live);
  const [isTried, setTried] = useState(false);
  const change = (next: Partial<Content>) => setContent({ ...content, ...next });
  const asked: Given = { content: { ...content, parts: parts.map(({ part }) => part) }, live };
  const missing = missingIn(asked.content);
  const shown = ["title", ...parts.map((_, at) => partAt(at))];
  const failed = otherFault(error, shown);
  const errorAt = (at: string) => (isTried ? missing[at] : undefined) ?? faultAt(error, at);
  return (
    <form
      style={{ display: "grid", gap: 14, gridTemplateColumns: "minmax(0, 1fr)" }}
      onSubmit={(event) => {
        event.preventDefault();
        setTried(true);
        if (Object.keys(missing).length) focusFirst(event.currentTarget);
        else onKeep(asked);
      }}
    >
      <Field
        label="Title"
        help="People read it above the figures."
        value={content.title}
        maxLength={200}
        isRequired
        error={errorAt("title")}
        onChange={(title) => change({ title })}
      />
      <Counting content={content} around={around} onContent={change} />
      <Said>
        Its figures{" "}
        <Picker
          inline
          label="What its figures do"
          options={LIVE}
          value={live ? "live" : "then"}
          onChange={(code) => setLive(code === "live")}
        />
        . People find it{" "}
        <Picker
          inline
          label="For how long"
          options={[
            { code: "on", label: "until it is closed" },
            { code: "until", label: "up to and including" },
          ]}
          value={content.until === null ? "on" : "until"}
          onChange={(code) => change({ until: code === "on" ? null : endOf(inAMonth()) })}
        />
        {content.until === null ? null : (
          <>
            {" "}
            <InSentence
              name="The last day"
              type="date"
              value={lastDay(content.until)}
              onChange={(day) => {
                if (day) change({ until: endOf(day) });
              }}
            />
          </>
        )}
        .
      </Said>
      <PartsEditor
        parts={parts}
        around={around}
        errorAt={(at) => errorAt(partAt(at))}
        onParts={setParts}
      />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button type="submit" weight="main" isDisabled={isPending}>
          {keep}
        </Button>
        <span role="status">{kept && dequal(asked, given) ? "Saved." : ""}</span>
      </Actions>
    </form>
  );
}

/** A day as a field for days has it. */
const inAMonth = () => lastDay(new Date(Date.now() + 31 * 86_400_000).toISOString());

interface CountingProps {
  content: Content;
  around: Around;
  onContent: (next: Partial<Content>) => void;
}

function Counting({ content, around, onContent }: CountingProps) {
  const [isFiltering, setFiltering] = useState(false);
  const view = { filter: content.filter };
  return (
    <>
      <Said>
        <CountedWords
          counted={{ ...content, view }}
          subjects={around.subjects}
          isFiltering={isFiltering}
          onFiltering={() => setFiltering(!isFiltering)}
          onCounted={onContent}
        />
        {around.languages.length > 1 ? (
          <>
            , in{" "}
            <Picker
              inline
              label="Language"
              options={around.languages}
              value={content.language}
              onChange={(language) => onContent({ language })}
            />
          </>
        ) : null}
        .
      </Said>
      {isFiltering ? (
        <FilterPart
          things="entries"
          view={view}
          subjects={around.subjects}
          onView={({ filter }) => onContent({ filter: filter ?? null })}
          onClose={() => setFiltering(false)}
        />
      ) : null}
    </>
  );
}
