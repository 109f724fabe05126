/** The bench's first part: what kind of answer an item takes, and within which limits. */
import { useState } from "react";

import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { KINDS } from "../../client/kinds";
import { everyKeyed, isQuestion, say, type Item, type Kind } from "../document";
import { type Subject } from "../subjects";
import { asKind } from "../draft/edits";
import { proposed } from "../staffNames";
import { fieldId, goTo } from "../draft/fields";
import { renameKey } from "../draft/rename";
import { FormulaFields } from "./FormulaFields";
import type { Change } from "./setting";
import { Limits } from "./Limits";
import { MediaFields } from "./MediaFields";
import { Section } from "../shell/Section";
import type { Draft } from "../draft/useDraft";

export interface Place {
  page: number;
  at: number;
  /** Its number inside of the item at `at`, where it stands in one. */
  inner?: number | undefined;
  draft: Draft;
}

interface AnswerProps extends Place {
  item: Item;
  outer: Item | undefined;
  onChange: Change;
  /** Everything that a formula can be computed from. */
  deep: () => readonly Subject[];
}

const kinds = Object.entries(KINDS).map(([code, { name, group }]) => ({
  code,
  label: name,
  group,
}));

function Key({ item, draft }: { item: Item; draft: Draft }) {
  const [other, setOther] = useState<string | null>(null);
  const typed = other ?? item.key;
  const taken = everyKeyed(draft.doc).some(({ key }) => key === typed && key !== item.key);
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
      onChange={setOther}
      onBlur={() => {
        if (error) return;
        if (typed !== item.key) draft.edit((now) => renameKey(now, item.key, typed));
        setOther(null);
      }}
    />
  );
}

/** Milliseconds after which a list that was open has given the focus back. */
const FOCUS_BACK = 60;

const HEADINGS: Partial<Record<Kind, string>> = {
  note: "Note",
  picture: "Picture",
  video: "Video",
  carried: "Carried value",
  computed: "Computed value",
};

export function Answer({ item, inner, outer, draft, onChange, deep }: AnswerProps) {
  const { doc } = draft;
  const set = (part: object) => onChange((one) => ({ ...one, ...part }), "limits");
  const place = outer?.kind === "grid" ? "inGrid" : "inRoster";
  const offered =
    inner === undefined ? kinds : kinds.filter(({ code }) => KINDS[code as Kind][place]);
  return (
    <Section title={HEADINGS[item.kind] ?? "Answer"}>
      <div data-kinds>
        <Picker
          label="Kind"
          options={offered}
          value={item.kind}
          onChange={(kind) => {
            onChange((one) => asKind(one, kind as Kind));
            // The list gives the focus back to its button first.
            setTimeout(() => goTo(fieldId("item", item.key)), FOCUS_BACK);
          }}
        />
      </div>
      {"required" in item || isQuestion(item) ? (
        <Toggle isSelected={item.required ?? false} onChange={(required) => set({ required })}>
          Required
        </Toggle>
      ) : null}
      {item.kind === "computed" ? (
        <FormulaFields item={item} doc={doc} subjects={deep()} set={set} />
      ) : item.kind === "picture" || item.kind === "video" ? (
        <MediaFields id={draft.id} item={item} doc={doc} set={set} />
      ) : (
        <Limits item={item} doc={doc} onChange={onChange} />
      )}
      <Field
        label="Short name"
        help="What staff read for it, in tables and conditions."
        value={item.short_name ?? ""}
        placeholder={proposed(say(doc, item.text))}
        maxLength={60}
        onChange={(short_name) => set({ short_name })}
      />
      <Key item={item} draft={draft} />
    </Section>
  );
}
