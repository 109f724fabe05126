/** The bench of a finish: where its link leads, the values it sets, the slots it may use. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { Mono } from "../../ui/text";
import {
  everyItem,
  isValued,
  optionsOf,
  say,
  told,
  type Doc,
  type Finish,
  type Item,
} from "../document";
import { changeFinish, removeFinish, type Spot } from "../draft/edits";
import { WhoSeesTheEnd } from "../kinds/Restricted";
import { Section } from "../shell/Section";
import type { Draft } from "../draft/useDraft";

interface FinishBenchProps {
  draft: Draft;
  number: number;
  onSpot: (spot: Spot) => void;
}

type Set = (change: (finish: Finish) => Finish, step?: string) => void;

const Values = styled.ul`
  display: grid;
  gap: 10px;
  > li {
    display: grid;
    gap: 3px;
  }
  > li > button:last-child {
    justify-self: start;
  }
`;

function Onward({ doc, finish, set }: { doc: Doc; finish: Finish; set: Set }) {
  const link = finish.link;
  if (!link) {
    return (
      <Button
        weight="word"
        onPress={() => set((one) => ({ ...one, link: { label: {}, address: "" } }))}
      >
        Add a link onward
      </Button>
    );
  }
  return (
    <>
      <Field
        label="Words of the link"
        value={say(doc, link.label)}
        onChange={(words) =>
          set(
            (one) => ({ ...one, link: { ...one.link, label: told(doc, one.link?.label, words) } }),
            "link words",
          )
        }
      />
      <Field
        label="Address"
        help="Slots may stand in it, such as ?entry={entry_number}."
        value={link.address ?? ""}
        onChange={(address) =>
          set((one) => ({ ...one, link: { ...one.link, address } }), "link address")
        }
      />
      <Toggle
        isSelected={link.signed ?? false}
        onChange={(signed) => set((one) => ({ ...one, link: { ...one.link, signed } }))}
      >
        Tell the program there that it is done
      </Toggle>
      <Button weight="word" onPress={() => set((one) => ({ ...one, link: null }))}>
        Remove the link
      </Button>
    </>
  );
}

/** One carried value that the finish sets. */
function Sets({ doc, item, value, set }: { doc: Doc; item: Item; value: string; set: Set }) {
  const options = optionsOf(item).map(({ code, label }) => ({
    code,
    label: say(doc, label) || code,
  }));
  const change = (next: string | null) =>
    set((one) => {
      const others = Object.entries(one.sets ?? {}).filter(([key]) => key !== item.key);
      const mine: [string, string][] = next === null ? [] : [[item.key, next]];
      return { ...one, sets: Object.fromEntries([...others, ...mine]) };
    }, `sets ${item.key}`);
  return (
    <li>
      {options.length ? (
        <Picker label={item.key} options={options} value={value} onChange={change} />
      ) : (
        <Field label={item.key} value={value} onChange={change} />
      )}
      <Button weight="word" onPress={() => change(null)}>
        Do not set it
      </Button>
    </li>
  );
}

function SetValues({ doc, finish, set }: { doc: Doc; finish: Finish; set: Set }) {
  const carried = everyItem(doc).filter(({ kind }) => kind === "carried");
  const sets = finish.sets ?? {};
  const free = carried.filter(({ key }) => !(key in sets));
  return (
    <Section title="Values it sets">
      {carried.length ? null : <p>There is no carried value yet that it could set.</p>}
      <Values>
        {carried
          .filter(({ key }) => key in sets)
          .map((item) => (
            <Sets key={item.key} doc={doc} item={item} value={sets[item.key] ?? ""} set={set} />
          ))}
      </Values>
      {free.length ? (
        <Picker
          label="Set a carried value"
          placeholder="choose the value"
          options={free.map((item) => ({ code: item.key, label: item.key }))}
          value={null}
          onChange={(key) => {
            const item = free.find((one) => one.key === key);
            const first = (item && optionsOf(item)[0]?.code) ?? "";
            set((one) => ({ ...one, sets: { ...one.sets, [key]: first } }));
          }}
        />
      ) : null}
    </Section>
  );
}

export function FinishBench({ draft, number, onSpot }: FinishBenchProps) {
  const { doc, edit } = draft;
  const finish = doc.finishes[number];
  if (!finish) return null;
  const set: Set = (change, step = "") =>
    edit((now) => changeFinish(now, number, change), step && `finish ${number} ${step}`);
  const slots = everyItem(doc).filter((item) => isValued(item) && !item.restricted);
  return (
    <>
      <Section title="Finish">
        <p>
          {number === 0
            ? "Everybody ends here unless a skip rule leads elsewhere."
            : "A skip rule of a page leads here."}
        </p>
        {doc.finishes.length > 1 ? (
          <Button
            onPress={() => {
              edit((now) => removeFinish(now, number));
              onSpot({ on: "finish", finish: 0 });
            }}
          >
            Delete this finish
          </Button>
        ) : null}
      </Section>
      <Section title="Link onward">
        <Onward doc={doc} finish={finish} set={set} />
      </Section>
      <SetValues doc={doc} finish={finish} set={set} />
      <WhoSeesTheEnd draft={draft} />
      <Section title="Slots for the message">
        <Picker
          label="Put into the message"
          placeholder="choose the answer"
          options={[
            { code: "entry_number", label: "entry_number" },
            ...slots.map((item) => ({
              code: item.key,
              label: item.key,
              detail: say(doc, item.text),
            })),
          ]}
          value={null}
          onChange={(key) =>
            set((one) => ({
              ...one,
              message: told(doc, one.message, `${say(doc, one.message)} {${key}}`.trim()),
            }))
          }
        />
        <p>
          An answer stands where its key does in the message, in curly brackets:{" "}
          <Mono>{"{key}"}</Mono>
        </p>
      </Section>
    </>
  );
}
