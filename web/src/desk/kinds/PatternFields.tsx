/** A pattern with its name for people, and examples that the server holds against it. */
import type { Schema } from "../../client/client";
import { Field } from "../../ui/Field";
import { say, told, type Doc } from "../document";

type Pattern = Schema<"Pattern">;

interface PatternFieldsProps {
  item: Schema<"ShortText">;
  doc: Doc;
  onChange: (pattern: Pattern | null) => void;
}

const lines = (text: string) => text.split("\n");

export function PatternFields({ item, doc, onChange }: PatternFieldsProps) {
  const pattern = item.pattern ?? null;
  const set = (part: Partial<Pattern>) => {
    const next = { expression: "", ...pattern, ...part };
    onChange(next.expression ? next : null);
  };
  return (
    <>
      <Field
        label="Pattern"
        help="A regular expression (RE2) for the whole answer."
        placeholder="TW-[0-9]{4}-[A-Z]"
        value={pattern?.expression ?? ""}
        onChange={(expression) => set({ expression })}
      />
      {pattern ? (
        <>
          <Field
            label="Its name: Write it …"
            placeholder="like TW-0000-A"
            value={say(doc, pattern.like)}
            onChange={(like) => set({ like: told(doc, pattern.like, like) })}
          />
          <Field
            label="Should fit, one a line"
            lines={2}
            value={(pattern.fits ?? []).join("\n")}
            onChange={(text) => set({ fits: text ? lines(text) : [] })}
          />
          <Field
            label="Should not fit, one a line"
            lines={2}
            value={(pattern.fails ?? []).join("\n")}
            onChange={(text) => set({ fails: text ? lines(text) : [] })}
          />
        </>
      ) : null}
    </>
  );
}
