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
import { Pair, Section } from "./Section";
import type { Draft } from "./useDraft";

type Change = (change: (item: Item) => Item, step?: string) => void;

interface ItemBenchProps {
  item: Item;
  page: number;
  at: number;
  draft: Draft;
  onChange: Change;
  onMove: (by: -1 | 1) => void;
  onDelete: () => void;
}

const kinds = Object.entries(KINDS).map(([code, label]) => ({ code, label }));

/** A whole or decimal number typed into a limit; empty is no limit, anything else is left out. */
function limit(text: string): number | null | undefined {
  if (!text.trim()) return null;
  const number = Number(text.replace(",", "."));
  return Number.isFinite(number) ? number : undefined;
}

interface LimitProps {
  label: string;
  value: number | string | null | undefined;
  onChange: (value: number | null) => void;
}

function Limit({ label, value, onChange }: LimitProps) {
  const [typed, setTyped] = useState(value == null ? "" : String(value));
  const wrong = limit(typed) === undefined;
  return (
    <Field
      label={label}
      value={typed}
      inputMode="decimal"
      error={wrong ? "Write a number." : undefined}
      onChange={(text) => {
        setTyped(text);
        const number = limit(text);
        if (number !== undefined) onChange(number);
      }}
    />
  );
}

function Limits({ item, onChange }: { item: Item; onChange: Change }) {
  const set = (part: Partial<Item>) => onChange((one) => ({ ...one, ...part }) as Item, "limits");
  const whole = (value: number | null) => (value === null ? null : Math.max(Math.round(value), 0));
  switch (item.kind) {
    case "short_text":
    case "long_text":
      return (
        <Pair>
          <Limit
            label="Shortest"
            value={item.shortest}
            onChange={(value) => set({ shortest: whole(value) })}
          />
          <Limit
            label="Longest"
            value={item.longest}
            onChange={(value) => set({ longest: value === null ? null : whole(value) || 1 })}
          />
        </Pair>
      );
    case "number":
      return (
        <>
          <Pair>
            <Limit
              label="At least"
              value={item.at_least}
              onChange={(value) => set({ at_least: value === null ? null : String(value) })}
            />
            <Limit
              label="At most"
              value={item.at_most}
              onChange={(value) => set({ at_most: value === null ? null : String(value) })}
            />
          </Pair>
          <Picker
            label="Digits after the point"
            options={[0, 1, 2, 3, 4, 5, 6].map((count) => ({
              code: String(count),
              label: count ? String(count) : "None, whole numbers",
            }))}
            value={String(item.decimals ?? 0)}
            onChange={(code) => set({ decimals: Number(code) })}
          />
        </>
      );
    default:
      return null;
  }
}

function Beside({ item, draft, onChange }: { item: Question; draft: Draft; onChange: Change }) {
  const language = first(draft.doc);
  const words = (name: "help" | "placeholder" | "error_text") => ({
    value: name in item ? say(draft.doc, item[name as "help"]) : "",
    onChange: (text: string) =>
      onChange((one) => ({ ...one, [name]: { [language]: text } }), `${name} ${item.key}`),
  });
  const typed = item.kind === "short_text" || item.kind === "long_text" || item.kind === "number";
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
        <Limits item={item} onChange={onChange} />
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
