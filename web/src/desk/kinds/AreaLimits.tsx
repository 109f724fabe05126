/** Where a place has to lie: in a box, around a point, or anywhere. */
import { useState } from "react";

import { Picker } from "../../ui/Picker";
import type { Item } from "../document";
import { Bound, DECIMAL } from "./bounds";
import type { Setting } from "./setting";
import { Pair } from "../shell/Section";

type Place = Extract<Item, { kind: "location" }>;
type Area = "anywhere" | "box" | "near";

const AREAS = [
  { code: "anywhere", label: "Anywhere" },
  { code: "box", label: "In a box" },
  { code: "near", label: "Around a point" },
];

const FIELDS = {
  box: [
    ["south", "South"],
    ["north", "North"],
    ["west", "West"],
    ["east", "East"],
  ],
  near: [
    ["latitude", "Latitude"],
    ["longitude", "Longitude"],
    ["kilometres", "At most, km"],
  ],
} as const;

const areaOf = ({ box, near }: Place): Area => (box ? "box" : near ? "near" : "anywhere");

/** Fields that are not all filled in are kept here until they are. */
export function AreaLimits({ item, set }: Setting & { item: Place }) {
  const [area, setArea] = useState<Area>(areaOf(item));
  const [typed, setTyped] = useState<Readonly<Record<string, string | null>>>({});
  const own: Readonly<Record<string, unknown>> = area === "anywhere" ? {} : (item[area] ?? {});
  const change = (name: string, value: string | null) => {
    if (area === "anywhere") return;
    const now = { ...typed, [name]: value };
    setTyped(now);
    const whole = FIELDS[area].map(([field]) => [field, now[field] ?? own[field]] as const);
    if (whole.every(([, one]) => one != null)) set({ [area]: Object.fromEntries(whole) });
  };
  return (
    <>
      <Picker
        label="Where it has to lie"
        options={AREAS}
        value={area}
        onChange={(code) => {
          setArea(code as Area);
          setTyped({});
          set({ box: null, near: null });
        }}
      />
      {area === "anywhere" ? null : (
        <Pair>
          {FIELDS[area].map(([name, label]) => (
            <Bound
              key={name}
              label={label}
              value={typed[name] ?? (own[name] as string | undefined)}
              {...DECIMAL}
              onChange={(value) => change(name, value)}
            />
          ))}
        </Pair>
      )}
    </>
  );
}
