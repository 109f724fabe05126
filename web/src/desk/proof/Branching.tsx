/** What the proof says of the draft, beside the script that is being written. */
import { Link } from "@tanstack/react-router";

import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import type { Spot } from "../draft/edits";
import { Section } from "../shell/Section";
import type { Draft } from "../draft/useDraft";
import { Findings } from "./Findings";
import { spotAt } from "./spots";
import { foundNothing } from "./summary";
import { useProof } from "./useProof";

interface BranchingProps {
  draft: Draft;
  onSpot: (spot: Spot) => void;
}

export function Branching({ draft, onSpot }: BranchingProps) {
  const { proof, current, problem, repair } = useProof(draft);
  const findings = (proof?.findings ?? []).filter(({ level }) => level === "wrong");
  return (
    <Section title="Branching">
      {problem ? <Strip tone="wrong">{problem}</Strip> : null}
      <Findings
        findings={findings}
        current={current}
        onGo={(at) => {
          const spot = spotAt(draft.doc, at);
          if (spot) onSpot(spot);
        }}
        onRepair={repair}
      />
      {findings.length ? null : (
        <p>
          {!current || !proof
            ? "Looking at every way through."
            : proof.proved
              ? foundNothing(proof)
              : "Nothing can be proved until what is listed above is mended."}
        </p>
      )}
      <Quiet>
        <Link to="/q/$id/map" params={{ id: draft.id }}>
          See it on the map
        </Link>
      </Quiet>
    </Section>
  );
}
