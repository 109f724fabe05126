/** What an item takes, in a few words. */
import type { Schema } from "../../client/client";
import { count, inside, KIND_NAMES, optionsOf, type Doc, type Item } from "../document";
import { nameOf } from "../subjects";

type Formula = Schema<"Computed">["formula"];

function formulaInWords(formula: Formula, name: (key: string) => string): string {
  const all = (keys: readonly string[]) => keys.map(name);
  switch (formula.do) {
    case "sum":
      return `the sum of ${all(formula.of).join(" and ")}`;
    case "count":
      return `how many of ${all(formula.of).join(" and ")}`;
    case "difference":
      return `${formula.unit ?? "days"} from ${name(formula.since)} to ${name(formula.until)}`;
    case "score":
      return `points for ${all(Object.keys(formula.points)).join(" and ")}`;
    case "first":
      return `the first answer of ${all(formula.of).join(", ")}`;
  }
}

/** The kind with its limits, as "Whole number, 1 to 60". */
export function limits(doc: Doc, item: Item): string {
  const range = (low: number | string | null | undefined, high: typeof low, unit: string) => {
    if (low != null && high != null) return `, ${low} to ${high}${unit}`;
    if (low != null) return `, at least ${low}${unit}`;
    return high != null ? `, at most ${high}${unit}` : "";
  };
  switch (item.kind) {
    case "short_text": {
      const like = item.pattern ? ", by a pattern" : "";
      return KIND_NAMES[item.kind] + range(item.shortest, item.longest, " characters") + like;
    }
    case "long_text":
      return KIND_NAMES[item.kind] + range(item.shortest, item.longest, " characters");
    case "number":
      return (item.decimals ? "Number" : "Whole number") + range(item.at_least, item.at_most, "");
    case "pick_many":
      return `${KIND_NAMES[item.kind]}, ${count(optionsOf(item).length, "option")}${range(item.fewest, item.most, " picks")}`;
    case "scale":
      return `Scale, ${item.low ?? 1} to ${item.high ?? 5}`;
    case "date":
    case "time":
    case "date_time":
      return KIND_NAMES[item.kind] + range(item.earliest, item.latest, "");
    case "rank": {
      const top = item.top ? `, the first ${item.top}` : "";
      return `${KIND_NAMES[item.kind]}, ${count(optionsOf(item).length, "option")}${top}`;
    }
    case "file":
      return KIND_NAMES[item.kind] + range(null, item.most ?? 1, "");
    case "location":
      return (
        KIND_NAMES[item.kind] +
        (item.near ? `, within ${item.near.kilometres} km` : item.box ? ", in a box" : "")
      );
    case "grid":
      return `${KIND_NAMES[item.kind]}, ${count(item.rows?.length ?? 0, "row")} by ${count(inside(item).length, "column")}`;
    case "roster":
      return KIND_NAMES[item.kind] + range(item.fewest || null, item.most ?? 10, " entries");
    case "computed":
      return `Computed: ${formulaInWords(item.formula, (key) => nameOf(doc, key))}`;
    case "pick_one":
      return `${KIND_NAMES[item.kind]}, ${count(optionsOf(item).length, "option")}`;
    default:
      return KIND_NAMES[item.kind];
  }
}
