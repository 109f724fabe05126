/** Limits of answers that have parts: names, addresses, files, rosters. */
import { Field } from "../../ui/Field";
import { Toggle } from "../../ui/Toggle";
import { inside, say, told, type Item } from "../document";
import { Bound, COUNTRIES, WHOLE } from "./bounds";
import type { Setting } from "./setting";
import { Pair } from "../shell/Section";

type Of<K extends Item["kind"]> = Setting & { item: Extract<Item, { kind: K }> };

const PARTS = {
  name: { title: "Title", given: "Given name", family: "Family name", suffix: "Suffix" },
  address: {
    street: "Street and number",
    more: "Flat, floor, building",
    city: "Town or city",
    region: "Region",
    postcode: "Postcode",
    country: "Country",
  },
} as const;

/** Parts that are asked, and of those the ones that an answer must have. */
export function PartLimits({ item, set }: Of<"name" | "address">) {
  const names = Object.entries(PARTS[item.kind]);
  const asked: readonly string[] =
    item.parts ?? (item.kind === "name" ? ["given", "family"] : ADDRESS);
  const needed: readonly string[] =
    item.needed ?? (item.kind === "name" ? ["given", "family"] : NEEDED);
  const kept = (list: readonly string[], part: string, on: boolean) =>
    names.map(([code]) => code).filter((code) => (code === part ? on : list.includes(code)));
  return (
    <>
      {names.map(([part, label]) => (
        <Pair key={part}>
          <Toggle
            isSelected={asked.includes(part)}
            isDisabled={asked.length === 1 && asked[0] === part}
            onChange={(on) =>
              set({
                parts: kept(asked, part, on),
                needed: on ? needed : kept(needed, part, false),
              })
            }
          >
            {label}
          </Toggle>
          {asked.includes(part) ? (
            <Toggle
              aria-label={`${label} is needed`}
              isSelected={needed.includes(part)}
              onChange={(on) => set({ parts: asked, needed: kept(needed, part, on) })}
            >
              needed
            </Toggle>
          ) : null}
        </Pair>
      ))}
      {item.kind === "address" && asked.includes("country") ? (
        <Bound
          label="Countries"
          help="Codes such as GB, IE. None offers every country."
          value={(item.countries ?? []).join(", ")}
          {...COUNTRIES}
          onChange={(found) => set({ countries: found ?? [] })}
        />
      ) : null}
    </>
  );
}

const ADDRESS = ["street", "more", "city", "postcode", "country"];
const NEEDED = ["street", "city", "postcode"];

const FILE_KINDS = {
  picture: "Pictures",
  pdf: "PDF",
  document: "Documents",
  sheet: "Spreadsheets",
  audio: "Sound",
  video: "Videos",
} as const;

export function FileLimits({ item, set }: Of<"file">) {
  const kinds: readonly string[] = item.kinds ?? ["picture", "pdf"];
  return (
    <>
      <Pair>
        <Bound
          label="Most files"
          value={item.most ?? 1}
          {...WHOLE}
          onChange={(most) => set({ most: Math.min(Math.max(most ?? 1, 1), 20) })}
        />
        <Bound
          label="Largest, in MB"
          value={item.largest ?? 10}
          {...WHOLE}
          onChange={(largest) => set({ largest: Math.min(Math.max(largest ?? 10, 1), 25) })}
        />
      </Pair>
      {Object.entries(FILE_KINDS).map(([kind, label]) => (
        <Toggle
          key={kind}
          isSelected={kinds.includes(kind)}
          isDisabled={kinds.length === 1 && kinds[0] === kind}
          onChange={(on) =>
            set({
              kinds: Object.keys(FILE_KINDS).filter((one) =>
                one === kind ? on : kinds.includes(one),
              ),
            })
          }
        >
          {label}
        </Toggle>
      ))}
    </>
  );
}

export function RosterLimits({ item, doc, set }: Of<"roster">) {
  const slot = inside(item)[0]?.key ?? "name";
  return (
    <>
      <Field
        label="What one of them is called"
        placeholder="well"
        value={say(doc, item.noun)}
        onChange={(noun) => set({ noun: told(doc, item.noun, noun) })}
      />
      <Field
        label="Title of an entry"
        help={`Keys in braces stand for its answers: {${slot}}.`}
        value={say(doc, item.title)}
        onChange={(title) => set({ title: told(doc, item.title, title) })}
      />
      <Pair>
        <Bound
          label="Fewest"
          value={item.fewest ?? 0}
          {...WHOLE}
          onChange={(fewest) => set({ fewest: Math.min(fewest ?? 0, 200) })}
        />
        <Bound
          label="Most"
          value={item.most ?? 10}
          {...WHOLE}
          onChange={(most) => set({ most: Math.min(Math.max(most ?? 10, 1), 200) })}
        />
      </Pair>
    </>
  );
}
