/** The bench of an item: kind, limits, words beside the question, who sees the answers. */
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { ConditionEditor } from "../condition/ConditionEditor";
import {
  everyItem,
  inside,
  isQuestion,
  isTyped,
  isValued,
  itemsOf,
  say,
  told,
  type Doc,
  type Grid,
  type Item,
  type Question,
  type Roster,
  type Text,
} from "../document";
import { earlier, earlierInside, isFact, subjectOf, type Subject } from "../subjects";
import { BankPart } from "../bank/BankPart";
import { isSeen } from "../carried";
import { Answer, type Place } from "../kinds/Answer";
import { CarriedFields } from "../kinds/CarriedFields";
import { CrossChecks } from "../kinds/CrossChecks";
import type { Change } from "../kinds/setting";
import { keysWithin, usedBy } from "../draft/references";
import { WhoMaySee } from "../kinds/Restricted";
import { Pair, Section } from "../shell/Section";
import { ShownParts } from "../kinds/ShownParts";
import { UsedBy } from "./Uses";
import type { Draft } from "../draft/useDraft";

interface ItemBenchProps extends Place {
  item: Item;
  onChange: Change;
  onMove: (by: -1 | 1) => void;
  onDuplicate: () => void;
  onDelete: () => void;
}

function wordsOf(item: Item, name: string): Text | undefined {
  return (item as unknown as Record<string, Text | undefined>)[name];
}

function Beside({ item, draft, onChange }: { item: Question; draft: Draft; onChange: Change }) {
  const words = (name: "help" | "placeholder" | "error_text") => ({
    value: say(draft.doc, wordsOf(item, name)),
    onChange: (text: string) =>
      onChange(
        (one) => ({
          ...one,
          [name]: told(draft.doc, wordsOf(one, name), text),
        }),
        `${name} ${item.key}`,
      ),
  });
  const typed = isTyped(item);
  return (
    <Section title="Words beside it">
      <Field label="Help below the question" {...words("help")} />
      {typed ? <Field label="Example inside the field" {...words("placeholder")} /> : null}
      <Field label="When the answer will not do" {...words("error_text")} />
    </Section>
  );
}

/** What the conditions of an item can name. */
function subjectsOf({ page, at, inner, draft: { doc } }: Place): readonly Subject[] {
  return inner === undefined ? earlier(doc, page, at) : earlierInside(doc, page, at, inner);
}

/** What a formula can be computed from: the same, and what stands inside of that. */
function deepSubjectsOf(place: Place): readonly Subject[] {
  const { doc } = place.draft;
  const subjects = subjectsOf(place).filter((one) => !isFact(one));
  const keys = new Set(subjects.map(({ key }) => key));
  const within = everyItem(doc)
    .filter(({ key }) => keys.has(key))
    .flatMap(inside);
  return [...subjects, ...within.map((one) => subjectOf(doc, one))];
}

/** Which columns of numbers are added up below the grid. */
function Totals({ item, doc, onChange }: { item: Grid; doc: Doc; onChange: Change }) {
  const numbers = inside(item).filter(({ kind }) => kind === "number");
  const totals = item.totals ?? [];
  if (!numbers.length) return null;
  return (
    <Section title="Added up below it">
      {numbers.map((column) => (
        <Toggle
          key={column.key}
          isSelected={totals.includes(column.key)}
          onChange={(on) =>
            onChange((one) => ({
              ...(one as Grid),
              totals: numbers
                .map(({ key }) => key)
                .filter((key) => (key === column.key ? on : totals.includes(key))),
            }))
          }
        >
          {say(doc, column.text) || column.key}
        </Toggle>
      ))}
    </Section>
  );
}

export function ItemBench(props: ItemBenchProps) {
  const { item, page, at, inner, draft, onChange, onMove, onDuplicate, onDelete } = props;
  const { doc } = draft;
  const subjects = subjectsOf(props);
  const outer = inner === undefined ? undefined : itemsOf(doc.pages[page] ?? EMPTY)[at];
  const shown = (item.kind !== "carried" || isSeen(item)) && outer?.kind !== "grid";
  return (
    <>
      <Answer {...props} outer={outer} deep={() => deepSubjectsOf(props)} />
      {item.kind === "carried" ? (
        <CarriedFields
          item={item}
          doc={doc}
          set={(part) => onChange((one) => ({ ...one, ...part }) as Item, `carried ${item.key}`)}
        />
      ) : null}
      {item.kind === "grid" ? <Totals item={item} doc={doc} onChange={onChange} /> : null}
      {shown ? (
        <Section title="Shown when">
          <ConditionEditor
            condition={item.shown_when}
            subjects={subjects}
            none="Everyone who comes to this page sees it."
            onChange={(shown_when) =>
              onChange((one) => ({ ...one, shown_when }), `when ${item.key}`)
            }
          />
        </Section>
      ) : null}
      {isQuestion(item) && !item.required ? (
        <Section title="Required when">
          <ConditionEditor
            condition={item.required_when}
            subjects={subjects}
            none="It may be left out."
            onChange={(required_when) =>
              onChange((one) => ({ ...one, required_when }) as Item, `required ${item.key}`)
            }
          />
        </Section>
      ) : null}
      <ShownParts item={item} doc={doc} subjects={subjects} onChange={onChange} />
      {item.kind === "roster" ? (
        <CrossChecks
          doc={doc}
          checks={item.checks ?? []}
          subjects={earlierInside(doc, page, at, inside(item).length)}
          onChange={(checks, step = "") =>
            onChange((one) => ({ ...(one as Roster), checks }), step)
          }
        />
      ) : null}
      {isQuestion(item) ? <Beside item={item} draft={draft} onChange={onChange} /> : null}
      {isValued(item) && inner === undefined ? (
        <WhoMaySee item={item} draft={draft} onChange={onChange} />
      ) : null}
      <Section title="Place">
        {isQuestion(item) && inner === undefined ? (
          <Picker
            label="Width"
            options={WIDTHS}
            value={item.width ?? "full"}
            onChange={(width) => onChange((one) => ({ ...one, width }) as Item)}
          />
        ) : null}
        <Pair>
          <Button onPress={() => onMove(-1)}>Move up</Button>
          <Button onPress={() => onMove(1)}>Move down</Button>
        </Pair>
        <Button onPress={onDuplicate}>Duplicate</Button>
        <Button onPress={onDelete}>Delete</Button>
      </Section>
      {isQuestion(item) && inner === undefined ? (
        <BankPart item={item} draft={draft} onChange={onChange} />
      ) : null}
      {isValued(item) ? (
        <UsedBy id={draft.id} keys={keysWithin(item)} uses={usedBy(doc, keysWithin(item))} />
      ) : null}
    </>
  );
}

/** Those that follow each other stand side by side where there is room. */
const WIDTHS = [
  { code: "full", label: "Full" },
  { code: "half", label: "Half" },
  { code: "third", label: "A third" },
];

const EMPTY = { key: "", title: {} };
