/** Checks across answers as staff read them, below what they are about. */
import type { Doc } from "../document";
import { nameOf } from "../subjects";
import type { CrossCheck } from "../kinds/comparable";
import { RELATIONS } from "../kinds/relations";
import { SmallList } from "./SmallList";

interface ChecksProps {
  doc: Doc;
  checks: readonly CrossCheck[];
}

export function Checks({ doc, checks }: ChecksProps) {
  const name = (key: string | null | undefined) => (key ? nameOf(doc, key) : null);
  return (
    <SmallList aria-label="Checks across answers">
      {checks.map((check, at) => (
        <li key={at}>
          Checked: <b>{name(check.left)}</b> {RELATIONS[check.relation]}{" "}
          <b>{name(check.right) ?? check.number}</b>
        </li>
      ))}
    </SmallList>
  );
}
