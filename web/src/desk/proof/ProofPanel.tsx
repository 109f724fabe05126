/** What is proved, what is wrong, what stays open, and the walk-throughs that take every branch. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { walkThroughs } from "../data";
import { count, say, type Doc } from "../document";
import { Section } from "../shell/Section";
import { Findings } from "./Findings";
import { foundNothing, walksTogether, weighed } from "./summary";
import type { Proved } from "./useProof";
import { WalkLegs, type WalkThrough } from "./WalkLegs";

const List = styled.ol`
  display: grid;
  gap: 2px;
  button {
    width: 100%;
    border: 0;
    border-inline-start: 3px solid transparent;
    background: none;
    color: var(--ink);
    text-align: start;
    padding: 5px 9px;
    min-height: 28px;
    cursor: pointer;
    &[aria-pressed="true"] {
      border-color: var(--flax);
      background: var(--flax-soft);
    }
    &:focus-visible {
      outline: 2.5px solid var(--flax);
      outline-offset: -2px;
    }
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 13px;
  }
`;

interface ProofPanelProps {
  id: string;
  doc: Doc;
  revision: number;
  writes: boolean;
  proved: Proved;
  walk: WalkThrough | null;
  onWalk: (walk: WalkThrough | null) => void;
  onPlay: (walk: WalkThrough) => void;
  onGo: (at: string) => void;
  onExample: (example: number) => void;
}

function ProofState({ proved }: { proved: Proved }) {
  const { proof, current, problem } = proved;
  if (problem) return <Strip tone="wrong">{problem}</Strip>;
  if (!proof || !current) return <Quiet role="status">Looking at every way through</Quiet>;
  if (!proof.proved) {
    return <Strip tone="care">Mend these first. Until then nothing can be proved.</Strip>;
  }
  const { wrong, advice, tone } = weighed(proof);
  return (
    <Strip tone={tone}>
      {wrong || advice
        ? `Every way was looked at: ${wrong} wrong, ${advice} to think about.`
        : `Every way was looked at. ${foundNothing(proof)}`}
    </Strip>
  );
}

function endOf(doc: Doc, { finish, legs }: WalkThrough): string {
  const title = say(doc, doc.finishes.find(({ key }) => key === finish)?.title);
  return title || (legs.at(-1)?.then ?? "");
}

function Walks({ id, doc, revision, proved, walk, onWalk, onPlay }: ProofPanelProps) {
  const { proof } = proved;
  const ready = proved.current && (proof?.proved ?? false);
  const query = useQuery({ ...walkThroughs(id, revision), enabled: ready });
  if (!ready || !proof) return null;
  return (
    <Section title="Walk-throughs">
      {query.data ? (
        <>
          <p>{walksTogether(query.data.length, proof)}</p>
          <List>
            {query.data.map((one, at) => (
              <li key={at}>
                <button
                  type="button"
                  aria-pressed={walk === one}
                  onClick={() => onWalk(walk === one ? null : one)}
                >
                  Walk-through {at + 1}: {count(one.legs.length, "page")}
                  <small>to {endOf(doc, one)}</small>
                </button>
              </li>
            ))}
          </List>
          <p>
            <a href={`/api/questionnaires/${id}/draft/proof/walk-throughs.csv`} download>
              All as a test sheet (CSV)
            </a>
          </p>
        </>
      ) : (
        <Quiet role="status">{query.error?.message ?? "Looking for as few as will do"}</Quiet>
      )}
      {walk ? (
        <>
          <Button weight="main" onPress={() => onPlay(walk)}>
            Play it
          </Button>
          <WalkLegs walk={walk} />
        </>
      ) : null}
    </Section>
  );
}

export function ProofPanel(props: ProofPanelProps) {
  const { proved, onGo, onExample } = props;
  const { proof, current } = proved;
  return (
    <>
      <Section title="The proof">
        <ProofState proved={proved} />
        <Findings
          findings={proof?.findings ?? []}
          current={current}
          onGo={onGo}
          onRepair={props.writes ? proved.repair : null}
          onExample={onExample}
        />
      </Section>
      {proof?.open?.length ? (
        <Section title="Not decided">
          <p>
            What is written freely, computed from that or too tangled is not decided; it may well be
            reached.
          </p>
          <ul>
            {proof.open.map(({ at, name }) => (
              <li key={at}>
                <Button weight="word" onPress={() => onGo(at)}>
                  {name}
                </Button>
              </li>
            ))}
          </ul>
        </Section>
      ) : null}
      <Walks {...props} />
    </>
  );
}
