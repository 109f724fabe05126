/** How the gate stands now, and the buttons that open, hold and shut it. */
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Arm, type ArmState } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { count } from "../document";
import type { Gate, Standing } from "./data";
import { inZone } from "./when";

const GROUNDS = {
  open: ["var(--accent)", "var(--accent-soft)"],
  held: ["var(--ochre)", "var(--ochre-soft)"],
  shut: ["var(--rust)", "var(--rust-soft)"],
} as const;

const Now = styled.section<{ $arm: ArmState }>`
  display: flex;
  flex-wrap: wrap;
  gap: 12px 24px;
  align-items: center;
  padding: 20px;
  border-inline-start: 4px solid ${({ $arm }) => GROUNDS[$arm][0]};
  background: ${({ $arm }) => GROUNDS[$arm][1]};
  > svg {
    flex: none;
    color: ${({ $arm }) => GROUNDS[$arm][0]};
  }
  > div:first-of-type {
    flex: 1 1 260px;
  }
  h2 {
    font-size: 23px;
  }
`;

/** For whom it is open, as a heading says it. */
function audience(gate: Gate): string {
  const kinds = (gate.audience ?? []).map(({ kind }) =>
    kind === "passes" ? "pass holders" : "people who sign in",
  );
  return kinds.length ? [...new Set(kinds)].join(" and ") : "everyone with the address";
}

function headingOf(gate: Gate, line: Schema<"SummaryOut">, standing: Standing): [ArmState, string] {
  if (line.edition === null) return ["shut", "Shut"];
  if (gate.state === "held") return ["held", "On hold"];
  if (gate.state === "shut") return ["shut", "Shut"];
  if (!standing.open) {
    const { changes, zone } = standing;
    return ["shut", changes ? `Opens ${inZone(changes, zone, "weekday")}` : "Its time is over"];
  }
  if (standing.reason === "full") return ["shut", "Full"];
  return ["open", `Open to ${audience(gate)}`];
}

function sentences(gate: Gate, line: Schema<"SummaryOut">, standing: Standing): string {
  if (line.edition === null) return "Nothing is published yet, so there is nothing to open.";
  const total = standing.places.find(({ cells }) => cells.some(({ labels }) => !labels.length));
  const cell = total?.cells[0];
  const found = [
    cell?.most != null
      ? `${cell.taken} of ${cell.most} places taken.`
      : `${count(line.entries, "entry")} so far.`,
    standing.answering ? `${count(standing.answering, "person")} answering now.` : "",
    gate.note ? `${gate.note}.`.replace(/([.!?])\.$/u, "$1") : "",
    gate.state === "open" && standing.open && standing.changes
      ? `Shuts by itself on ${inZone(standing.changes, standing.zone, "weekday")}.`
      : "",
    gate.state === "open" && standing.open && !standing.changes
      ? "It stays open until somebody shuts it."
      : "",
  ];
  return found.filter(Boolean).join(" ");
}

interface StateProps {
  id: string;
  gate: Gate;
  line: Schema<"SummaryOut">;
  standing: Standing;
  writes: boolean;
  busy: boolean;
  onState: (state: Gate["state"], note: string) => void;
}

export function State({ id, gate, line, standing, writes, busy, onState }: StateProps) {
  const [asking, setAsking] = useState<"held" | "shut" | null>(null);
  const [arm, heading] = headingOf(gate, line, standing);
  const published = line.edition !== null;
  return (
    <Now $arm={arm}>
      <Arm state={arm} size={54} />
      <div>
        <h2>{heading}</h2>
        <p>
          {sentences(gate, line, standing)}{" "}
          {published ? (
            gate.state === "open" ? (
              <Link to="/q/$id/links" params={{ id }}>
                The link to pass on
              </Link>
            ) : null
          ) : (
            <Link to="/q/$id/script" params={{ id }}>
              Go to the script and publish it
            </Link>
          )}
        </p>
      </div>
      {writes && published ? (
        <Actions>
          {gate.state === "open" ? null : (
            <Button weight="main" isDisabled={busy} onPress={() => onState("open", "")}>
              Open now
            </Button>
          )}
          {gate.state === "held" ? null : (
            <Button isDisabled={busy} onPress={() => setAsking("held")}>
              Hold
            </Button>
          )}
          {gate.state === "shut" ? null : (
            <Button isDisabled={busy} onPress={() => setAsking("shut")}>
              Shut now
            </Button>
          )}
        </Actions>
      ) : null}
      {asking ? (
        <Why
          state={asking}
          grace={gate.grace ?? 0}
          onClose={() => setAsking(null)}
          onDone={(note) => {
            setAsking(null);
            onState(asking, note);
          }}
        />
      ) : null}
    </Now>
  );
}

interface WhyProps {
  state: "held" | "shut";
  grace: number;
  onClose: () => void;
  onDone: (note: string) => void;
}

function Why({ state, grace, onClose, onDone }: WhyProps) {
  const [note, setNote] = useState("");
  const held = state === "held";
  return (
    <Sheet title={held ? "Hold the gate" : "Shut the gate"} open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onDone(note.trim());
        }}
      >
        <p>
          {held
            ? "Nobody can begin or send until you open it again. Answers on their way are kept."
            : grace
              ? `Nobody new is let in. Whoever has begun can send for ${count(grace, "minute")} more.`
              : "Nobody is let in, and nobody can send any more. Answers on their way are kept."}
        </p>
        <Field
          label="Why"
          help="For you and your colleagues; visitors read the words below."
          value={note}
          onChange={setNote}
          maxLength={500}
          autoFocus
        />
        <Actions style={{ marginTop: 14 }}>
          <Button onPress={onClose}>Cancel</Button>
          <Button weight="main" type="submit">
            {held ? "Hold" : "Shut now"}
          </Button>
        </Actions>
      </form>
    </Sheet>
  );
}
