/** Who else is in the draft: all of them in the foot, and each beside what they have selected. */
import { use } from "react";

import { Tag } from "../../ui/Arm";
import { Presences, type Present } from "./usePresence";

const firstName = (name: string) => name.split(" ")[0] ?? name;

export function AlsoHere({ others }: { others: readonly Present[] }) {
  const names = [...new Set(others.map(({ name }) => name))];
  return (
    <span role="status" aria-label="Also here">
      {names.length ? <Tag $as="sealed">{names.join(", ")} also here</Tag> : null}
    </span>
  );
}

export function Here({ at }: { at: string }) {
  const names = [...new Set((use(Presences).get(at) ?? []).map(({ name }) => firstName(name)))];
  return names.length ? <Tag $as="sealed">{names.join(", ")}</Tag> : null;
}
