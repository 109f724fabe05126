/** The limits that an item's kind has, each in its own field. */
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { say, told, type Doc, type Item } from "../document";
import { AreaLimits } from "./AreaLimits";
import { Bound, CLOCK, COUNTRIES, DAY, DECIMAL, MOMENT, WHOLE } from "./bounds";
import { FileLimits, PartLimits, RosterLimits } from "./CompositeLimits";
import { PatternFields } from "./PatternFields";
import { PickLimits, RankLimits, ScaleLimits } from "./PickLimits";
import type { Change, Setting } from "./setting";
import { Pair } from "../shell/Section";

interface LimitsProps {
  item: Item;
  doc: Doc;
  onChange: Change;
}

function NumberLimits({ item, doc, set }: Setting & { item: Extract<Item, { kind: "number" }> }) {
  return (
    <>
      <Pair>
        <Bound
          label="At least"
          value={item.at_least}
          {...DECIMAL}
          onChange={(at_least) => set({ at_least })}
        />
        <Bound
          label="At most"
          value={item.at_most}
          {...DECIMAL}
          onChange={(at_most) => set({ at_most })}
        />
      </Pair>
      <Picker
        label="Digits after the point"
        options={[0, 1, 2, 3, 4, 5, 6].map((digits) => ({
          code: String(digits),
          label: digits ? String(digits) : "None, whole numbers",
        }))}
        value={String(item.decimals ?? 0)}
        onChange={(code) => set({ decimals: Number(code) })}
      />
      <Pair>
        <Bound
          label="In steps of"
          value={item.step}
          {...DECIMAL}
          onChange={(step) => set({ step: Number(step) > 0 ? step : null })}
        />
        <Field
          label="Unit"
          placeholder="litres"
          value={say(doc, item.unit)}
          onChange={(unit) => set({ unit: told(doc, item.unit, unit) })}
        />
      </Pair>
    </>
  );
}

export function Limits({ item, doc, onChange }: LimitsProps) {
  const set = (part: object) => onChange((one) => ({ ...one, ...part }), "limits");
  const setting = { doc, set };
  switch (item.kind) {
    case "short_text":
    case "long_text":
      return (
        <>
          <Pair>
            <Bound
              label="Shortest"
              value={item.shortest}
              {...WHOLE}
              onChange={(shortest) => set({ shortest })}
            />
            <Bound
              label="Longest"
              value={item.longest}
              {...WHOLE}
              onChange={(longest) => set({ longest: longest === 0 ? 1 : longest })}
            />
          </Pair>
          {item.kind === "short_text" ? (
            <PatternFields item={item} doc={doc} onChange={(pattern) => set({ pattern })} />
          ) : null}
        </>
      );
    case "number":
      return <NumberLimits item={item} {...setting} />;
    case "date":
    case "time":
    case "date_time": {
      const kind = { date: DAY, time: CLOCK, date_time: MOMENT }[item.kind];
      return (
        <Pair>
          <Bound
            label="Not before"
            value={item.earliest}
            {...kind}
            onChange={(earliest) => set({ earliest })}
          />
          <Bound
            label="Not after"
            value={item.latest}
            {...kind}
            onChange={(latest) => set({ latest })}
          />
        </Pair>
      );
    }
    case "pick_one":
    case "pick_many":
      return <PickLimits item={item} {...setting} />;
    case "rank":
      return <RankLimits item={item} {...setting} />;
    case "scale":
      return <ScaleLimits item={item} {...setting} />;
    case "phone":
      return (
        <Bound
          label="Countries"
          help="Codes such as GB, IE. The first counts for numbers without +. None takes all."
          value={(item.countries ?? []).join(", ")}
          {...COUNTRIES}
          onChange={(found) => set({ countries: found ?? [] })}
        />
      );
    case "name":
    case "address":
      return <PartLimits item={item} {...setting} />;
    case "location":
      return <AreaLimits item={item} {...setting} />;
    case "file":
      return <FileLimits item={item} {...setting} />;
    case "roster":
      return <RosterLimits item={item} {...setting} />;
    default:
      return null;
  }
}
