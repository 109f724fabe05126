/** Limits of what is picked: looks, counts, something else, order, ends of a scale. */
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { say, told, type Item } from "../document";
import { Bound, WHOLE } from "./bounds";
import type { Setting } from "./setting";
import { Pair } from "../shell/Section";

type Of<K extends Item["kind"]> = Setting & { item: Extract<Item, { kind: K }> };

const LOOKS = [
  { code: "list", label: "A list, one below the other" },
  { code: "dropdown", label: "A list that opens" },
  { code: "buttons", label: "Buttons side by side" },
];

function Shuffled({ item, set }: Of<"pick_one" | "pick_many" | "rank">) {
  return (
    <Toggle isSelected={item.shuffled ?? false} onChange={(shuffled) => set({ shuffled })}>
      In another order for each visitor
    </Toggle>
  );
}

export function PickLimits({ item, doc, set }: Of<"pick_one" | "pick_many">) {
  return (
    <>
      {item.kind === "pick_one" ? (
        <Picker
          label="Looks like"
          options={LOOKS}
          value={item.look ?? "list"}
          onChange={(look) => set({ look })}
        />
      ) : (
        <Pair>
          <Bound
            label="Fewest picks"
            value={item.fewest}
            {...WHOLE}
            onChange={(fewest) => set({ fewest: fewest || null })}
          />
          <Bound
            label="Most picks"
            value={item.most}
            {...WHOLE}
            onChange={(most) => set({ most: most || null })}
          />
        </Pair>
      )}
      <Field
        label="Something else, in own words"
        help="The words of that option. Left empty, it is not offered."
        placeholder="Something else"
        value={say(doc, item.else_label)}
        onChange={(words) =>
          set({ else_label: words.trim() ? told(doc, item.else_label, words) : {} })
        }
      />
      <Shuffled item={item} doc={doc} set={set} />
    </>
  );
}

export function RankLimits({ item, doc, set }: Of<"rank">) {
  return (
    <>
      <Bound
        label="How many are put in order"
        help="Left empty, all of them."
        value={item.top}
        {...WHOLE}
        onChange={(top) => set({ top: top || null })}
      />
      <Shuffled item={item} doc={doc} set={set} />
    </>
  );
}

const points = (from: number, to: number) =>
  Array.from({ length: to - from + 1 }, (_, step) => ({
    code: String(from + step),
    label: String(from + step),
  }));

export function ScaleLimits({ item, doc, set }: Of<"scale">) {
  return (
    <>
      <Pair>
        <Picker
          label="From"
          options={points(0, 1)}
          value={String(item.low ?? 1)}
          onChange={(low) => set({ low: Number(low) })}
        />
        <Picker
          label="To"
          options={points(2, 10)}
          value={String(item.high ?? 5)}
          onChange={(high) => set({ high: Number(high) })}
        />
      </Pair>
      <Field
        label="The low end in words"
        value={say(doc, item.low_label)}
        onChange={(words) => set({ low_label: told(doc, item.low_label, words) })}
      />
      <Field
        label="The high end in words"
        value={say(doc, item.high_label)}
        onChange={(words) => set({ high_label: told(doc, item.high_label, words) })}
      />
    </>
  );
}
