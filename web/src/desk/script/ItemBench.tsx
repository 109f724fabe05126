/** The bench of an item: kind, limits, words beside the question, who sees the answers. */
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { ConditionEditor } from "../condition/ConditionEditor";
import {
  byKey,
  earlier,
  everyItem,
  first,
  isQuestion,
  KINDS,
  say,
  type Item,
  type Kind,
  type Question,
} from "../document";
import { asKind, renameKey } from "./edits";
import { Limits, type Change } from "./Limits";
import { Pair, Section } from "./Section";
import type { Draft } from "./useDraft";

interface ItemBenchProps {
  item: Item;
  page: number;
  at: number;
  draft: Draft;
  onChange: Change;
  onMove: (by: -1 | 1) => void;
  onDelete: () => void;
}

/** The kinds that are typed, where an example inside the field helps. */
const TYPED = new Set<Kind>(["short_text", "long_text", "email", "phone", "web_address", "number"]);

const kinds = Object.entries(KINDS).map(([code, label]) => ({ code, label }));

function Beside({ item, draft, onChange }: { item: Question; draft: Draft; onChange: Change }) {
  const language = first(draft.doc);
  const words = (name: "help" | "placeholder" | "error_text") => ({
    value: name in item ? say(draft.doc, item[name as "help"]) : "",
    onChange: (text: string) =>
      onChange((one) => ({ ...one, [name]: { [language]: text } }), `${name} ${item.key}`),
  });
  const typed = TYPED.has(item.kind);
  return (
    <Section title="Words beside it">
      <Field label="Help below the question" {...words("help")} />
      {typed ? <Field label="Example inside the field" {...words("placeholder")} /> : null}
      <Field label="When the answer will not do" {...words("error_text")} />
    </Section>
  );
}

function Key({ item, draft }: { item: Item; draft: Draft }) {
  const [typed, setTyped] = useState(item.key);
  const taken = everyItem(draft.doc).some(({ key }) => key === typed && key !== item.key);
  const wellFormed = /^[a-z][a-z0-9_]{0,39}$/.test(typed);
  const error = taken
    ? "Another item has this key."
    : wellFormed
      ? undefined
      : "Small letters, digits and _, begun by a letter.";
  return (
    <Field
      label="Key"
      value={typed}
      error={error}
      help="Links, rules and entries know the item by it."
      onChange={setTyped}
      onBlur={() => {
        if (!error && typed !== item.key) draft.edit((now) => renameKey(now, item.key, typed));
      }}
    />
  );
}

export function ItemBench({ item, page, at, draft, onChange, onMove, onDelete }: ItemBenchProps) {
  const isNote = item.kind === "note";
  const set = (part: Partial<Question>) => onChange((one) => ({ ...one, ...part }) as Item);
  return (
    <>
      <Section title={isNote ? "Note" : item.kind === "carried" ? "Carried value" : "Answer"}>
        <Picker
          label="Kind"
          options={kinds}
          value={item.kind}
          onChange={(kind) => onChange((one) => asKind(one, kind as Kind))}
        />
        {item.kind === "note" ? null : (
          <Toggle isSelected={item.required ?? false} onChange={(required) => set({ required })}>
            Required
          </Toggle>
        )}
        <Limits item={item} doc={draft.doc} onChange={onChange} />
        {item.kind === "carried" ? (
          <Picker
            label="When the link brings a wrong value"
            options={[
              { code: "flag", label: "Take the entry and flag it" },
              { code: "refuse", label: "Refuse the visitor" },
            ]}
            value={item.when_wrong ?? "flag"}
            onChange={(code) => onChange((one) => ({ ...one, when_wrong: code }) as Item)}
          />
        ) : null}
        <Key item={item} draft={draft} />
      </Section>
      {item.kind === "carried" ? null : (
        <Section title="Shown when">
          <ConditionEditor
            condition={item.shown_when}
            subjects={byKey(earlier(draft.doc, page, at))}
            none="Everyone who comes to this page sees it."
            onChange={(shown_when) =>
              onChange((one) => ({ ...one, shown_when }), `when ${item.key}`)
            }
          />
        </Section>
      )}
      {isQuestion(item) ? <Beside item={item} draft={draft} onChange={onChange} /> : null}
      {isNote ? null : (
        <Section title="Who may see the answers">
          <Toggle
            isSelected={item.restricted ?? false}
            onChange={(restricted) => set({ restricted })}
          >
            Only people with clearance
          </Toggle>
        </Section>
      )}
      <Section title="Place">
        <Pair>
          <Button onPress={() => onMove(-1)}>Move up</Button>
          <Button onPress={() => onMove(1)}>Move down</Button>
        </Pair>
        <Button onPress={onDelete}>Delete</Button>
      </Section>
    </>
  );
}
