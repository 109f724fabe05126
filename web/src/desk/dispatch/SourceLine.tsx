/** Where something that is filed or set comes from: the entry, fixed words, or a text put together. */
import { InSentence } from "../../ui/InSentence";
import { Picker } from "../../ui/Picker";
import type { Subject } from "../subjects";
import { Line, Stack } from "./kit";
import type { Source } from "./rules";
import type { Part } from "./subjects";
import { WrittenWords } from "./WrittenWords";

const LEFT_OUT = " ",
  FIXED = " fixed",
  COMPOSED = " composed";

/** What a picked code means as a source, with what was written before where that fits. */
function sourceOf(code: string, before: Source | undefined): Source | null {
  const text = before && "text" in before ? before.text : "";
  if (code === LEFT_OUT) return null;
  if (code === FIXED) return { kind: "fixed", text };
  if (code === COMPOSED) return { kind: "composed", text };
  return { kind: "entry", name: code };
}

function codeOf(source: Source | undefined): string {
  if (!source) return LEFT_OUT;
  if (source.kind === "entry") return source.name;
  return source.kind === "fixed" ? FIXED : COMPOSED;
}

interface SourceLineProps {
  name: string;
  source: Source | undefined;
  /** What can be taken as it is. */
  options: readonly { code: string; label: string; detail?: string }[];
  /** What the slots of a text can name. */
  subjects: readonly Subject[];
  parts: readonly Part[];
  /** What taking nothing is called; without it something is always taken. */
  leftOut?: string;
  onChange: (source: Source | null) => void;
}

export function SourceLine(props: SourceLineProps) {
  const { name, source, options, subjects, parts, leftOut, onChange } = props;
  const code = codeOf(source);
  return (
    <Stack>
      <Line>
        <Picker
          inline
          label={`${name} takes`}
          value={leftOut || code !== LEFT_OUT ? code : null}
          options={[
            ...(leftOut ? [{ code: LEFT_OUT, label: leftOut }] : []),
            ...options,
            { code: FIXED, label: "always the same" },
            { code: COMPOSED, label: "a text put together" },
          ]}
          onChange={(next) => onChange(sourceOf(next, source))}
        />
        {source?.kind === "fixed" ? (
          <InSentence
            name={`${name}, always`}
            type="text"
            size={24}
            value={source.text}
            onChange={(text) => onChange({ kind: "fixed", text })}
          />
        ) : null}
      </Line>
      {source?.kind === "composed" ? (
        <WrittenWords
          label={`${name}: the text`}
          value={source.text}
          subjects={subjects}
          parts={parts}
          onChange={(text) => onChange({ kind: "composed", text })}
        />
      ) : null}
    </Stack>
  );
}

export const NUMBER_OF_ENTRY = { code: "entry_number", label: "Number of the entry" };

export const asChoice = ({ key, label }: Subject) => ({ code: key, label, detail: key });
