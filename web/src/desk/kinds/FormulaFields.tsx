/** How a computed value follows from answers, built as a sentence. */
import type { Schema } from "../../client/client";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { holdsOf } from "../condition/words";
import { everyKeyed, optionsOf, say, type Doc, type Item } from "../document";
import { type Subject } from "../subjects";
import { Bound, DECIMAL } from "./bounds";
import type { Setting } from "./setting";
import { Pair } from "../shell/Section";

type Computed = Schema<"Computed">;
type Formula = Computed["formula"];
type Unit = NonNullable<Schema<"Difference">["unit"]>;

const DOES: { code: Formula["do"]; label: string }[] = [
  { code: "sum", label: "the sum of numbers" },
  { code: "count", label: "how many there are" },
  { code: "difference", label: "the time from one day to another" },
  { code: "score", label: "points for what was picked" },
  { code: "first", label: "the first of these that was answered" },
];

const UNITS: Unit[] = ["minutes", "hours", "days", "weeks", "months", "years"];

/** The subjects that a formula of this sort can be computed from. */
function suits(does: Formula["do"], subject: Subject): boolean {
  const { kind, options } = subject;
  const holds = holdsOf(subject);
  if (does === "sum") return holds === "number";
  if (does === "difference") return holds === "day" || holds === "moment";
  if (does === "score") return options.length > 0 || kind === "yes_no" || kind === "scale";
  return true;
}

export function begin(
  does: Formula["do"],
  subjects: readonly Subject[],
  edge: FormulaPartsProps["edge"],
): Formula {
  const key = subjects.find((subject) => suits(does, subject))?.key ?? "question";
  switch (does) {
    case "difference":
      return { do: "difference", since: key, until: edge[0]?.code ?? key, unit: "days" };
    case "score":
      return { do: "score", points: { [key]: {} } };
    default:
      return { do: does, of: [key] };
  }
}

interface FormulaProps extends Setting {
  item: Computed;
  /** Everything that stands before it, inside rosters and grids too. */
  subjects: readonly Subject[];
}

export function FormulaFields({ item, doc, subjects, set }: FormulaProps) {
  const keyed = everyKeyed(doc);
  return (
    <>
      <FormulaParts
        formula={item.formula}
        subjects={subjects}
        codesOf={(key) =>
          codesOf(
            doc,
            keyed.find((one) => one.key === key),
          )
        }
        edge={TODAY}
        onChange={(formula) => set({ formula })}
      />
      <Toggle isSelected={item.visible ?? false} onChange={(visible) => set({ visible })}>
        The respondent sees it
      </Toggle>
    </>
  );
}

const TODAY = [{ code: "today", label: "today" }];

interface FormulaPartsProps {
  formula: Formula;
  subjects: readonly Subject[];
  /** What points are given for, by what is asked. */
  codesOf: (key: string) => readonly { code: string; label: string }[];
  /** What time can be counted from beside days that are known. */
  edge: readonly { code: string; label: string }[];
  onChange: (formula: Formula) => void;
}

/** How a value follows from others. */
export function FormulaParts(props: FormulaPartsProps) {
  const { formula, subjects, codesOf: codes, edge, onChange: into } = props;
  const usable = subjects.filter((subject) => suits(formula.do, subject));
  return (
    <>
      <Picker
        label="It is"
        options={DOES}
        value={formula.do}
        onChange={(code) => into(begin(code as Formula["do"], subjects, edge))}
      />
      {formula.do === "difference" ? (
        <Difference formula={formula} usable={usable} edge={edge} onChange={into} />
      ) : formula.do === "score" ? (
        <Score formula={formula} codes={codes} usable={usable} onChange={into} />
      ) : (
        usable.map(({ key, label }) => {
          const among = formula.of.includes(key);
          return (
            <Toggle
              key={key}
              isSelected={among}
              isDisabled={among && formula.of.length === 1}
              onChange={(on) =>
                into({
                  ...formula,
                  of: subjects
                    .map((subject) => subject.key)
                    .filter((one) => (one === key ? on : formula.of.includes(one))),
                })
              }
            >
              {label}
            </Toggle>
          );
        })
      )}
    </>
  );
}

interface PartProps<F> {
  formula: F;
  usable: readonly Subject[];
  onChange: (formula: Formula) => void;
}

function Difference({
  formula,
  usable,
  edge,
  onChange,
}: PartProps<Schema<"Difference">> & Pick<FormulaPartsProps, "edge">) {
  const edges = [...edge, ...usable.map(({ key, label }) => ({ code: key, label }))];
  return (
    <>
      <Picker
        label="Since"
        options={edges}
        value={formula.since}
        onChange={(since) => onChange({ ...formula, since })}
      />
      <Picker
        label="Until"
        options={edges}
        value={formula.until}
        onChange={(until) => onChange({ ...formula, until })}
      />
      <Picker
        label="In whole"
        options={UNITS.map((unit) => ({ code: unit, label: unit }))}
        value={formula.unit ?? "days"}
        onChange={(unit) => onChange({ ...formula, unit: unit as Unit })}
      />
    </>
  );
}

/** What points are given for: options, yes and no, or the points of a scale. */
function codesOf(doc: Doc, item: Item | undefined): { code: string; label: string }[] {
  if (item?.kind === "yes_no") {
    return [
      { code: "yes", label: "Yes" },
      { code: "no", label: "No" },
    ];
  }
  if (item?.kind === "scale") {
    const { low = 1, high = 5 } = item;
    return Array.from({ length: high - low + 1 }, (_, at) => String(low + at)).map((code) => ({
      code,
      label: code,
    }));
  }
  return item
    ? optionsOf(item).map(({ code, label }) => ({ code, label: say(doc, label) || code }))
    : [];
}

function Score({
  formula,
  codes,
  usable,
  onChange,
}: PartProps<Schema<"Score">> & { codes: FormulaPartsProps["codesOf"] }) {
  return (
    <>
      {usable.map(({ key, label }) => {
        const points = formula.points[key];
        const others = Object.fromEntries(
          Object.entries(formula.points).filter(([other]) => other !== key),
        );
        return (
          <div key={key}>
            <Toggle
              isSelected={points !== undefined}
              isDisabled={points !== undefined && Object.keys(formula.points).length === 1}
              onChange={(on) =>
                onChange({ ...formula, points: on ? { ...others, [key]: {} } : others })
              }
            >
              {label}
            </Toggle>
            {points ? (
              <Pair>
                {codes(key).map((option) => (
                  <Bound
                    key={option.code}
                    label={option.label}
                    value={points[option.code]}
                    {...DECIMAL}
                    onChange={(value) => {
                      const rest = Object.entries(points).filter(([one]) => one !== option.code);
                      const own = value === null ? [] : [[option.code, value] as const];
                      const next = Object.fromEntries([...rest, ...own]);
                      onChange({ ...formula, points: { ...formula.points, [key]: next } });
                    }}
                  />
                ))}
              </Pair>
            ) : null}
          </div>
        );
      })}
    </>
  );
}
