/** The desk: every questionnaire with its gate and what has arrived. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Arm, GateTag, Tag, type ArmState } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { lateEntries, questionnaires, waiting } from "../data";
import { count } from "../document";
import { gateTag } from "../gateTag";
import { useMe } from "../shell/me";
import { RoomHead } from "../shell/Office";
import { whenAmid } from "../when";
import { GatesBar } from "./GatesBar";
import { ImportSheet } from "./ImportSheet";
import { NewSheet } from "./NewSheet";
import { Empty, Loaded } from "../shell/states";

type Line = Schema<"DeskLineOut">;

const Lines = styled.ul`
  border-top: 1px solid var(--line);
`;

const Folder = styled.section`
  & + & {
    margin-top: 22px;
  }
  > h2 {
    font-size: 16px;
    color: var(--ink-2);
    padding: 0 10px 6px;
  }
`;

/** What lies outside of any folder, then the folders by name. */
function foldersOf(lines: readonly Line[]): { folder: string; lines: readonly Line[] }[] {
  const names = [...new Set(lines.map(({ folder }) => folder))].sort((a, b) => a.localeCompare(b));
  return names.map((folder) => ({
    folder,
    lines: lines.filter((line) => line.folder === folder),
  }));
}

const Row = styled.li`
  a {
    color: inherit;
    text-decoration: none;
    display: inline-block;
    min-height: 24px;
  }
  position: relative;
  a::after {
    content: "";
    position: absolute;
    inset: 0;
  }
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr) 172px 186px 124px;
  gap: 6px 14px;
  align-items: center;
  padding: 13px 10px;
  border-bottom: 1px solid var(--line);
  &:hover {
    background: var(--paper);
  }
  > :last-child {
    text-align: end;
    font-weight: 600;
    span {
      display: block;
      font-weight: 400;
    }
  }
  @media (max-width: 900px) {
    grid-template-columns: 62px minmax(0, 1fr);
    > svg:last-of-type {
      display: none;
    }
    > :nth-last-child(-n + 2) {
      grid-column: 2;
    }
    > :last-child {
      text-align: start;
      display: flex;
      gap: 10px;
    }
  }
`;

const Title = styled.h2`
  font-size: 17.5px;
  overflow-wrap: anywhere;
`;

const COLOURS = { open: "--accent", held: "--ochre", shut: "--rust" } as const;

const Glyph = styled.label<{ $state: ArmState }>`
  color: var(${({ $state }) => COLOURS[$state]});
  position: relative;
  z-index: 1;
  grid-auto-flow: column;
  gap: 8px;
  justify-content: start;
  min-height: 26px;
  input {
    width: 24px;
    height: 24px;
  }
  display: grid;
  place-items: center;
`;

/** Entries of the last days, a bar a day, today at the end. */
function Arrivals({ days }: { days: readonly number[] }) {
  const most = Math.max(...days, 1);
  const total = days.reduce((sum, day) => sum + day, 0);
  return (
    <svg
      width="168"
      height="36"
      viewBox="0 0 168 36"
      role="img"
      aria-label={`${total} entries in the last ${days.length} days`}
    >
      {days.map((count, day) => {
        const height = Math.max((count / most) * 34, 1);
        return (
          <rect
            key={day}
            x={day * 12}
            y={36 - height}
            width="9"
            height={height}
            fill={count ? "var(--accent-mid)" : "var(--line-2)"}
          />
        );
      })}
    </svg>
  );
}

/** The view of those, as the address has it. */
const LATE = { filter: { op: "is", item: "entry.late", value: true } } as const;

interface LineProps {
  line: Line;
  /** Entries that have had their status for too long. */
  late: number;
  chosen: boolean;
  onChosen: (chosen: boolean) => void;
}

/** Whether its gate can be opened and shut by whoever looks. */
const turns = (line: Line) => line.edition !== null && line.rights.includes("write");

function DeskLine({ line, late, chosen, onChosen }: LineProps) {
  const today = line.arrivals.at(-1) ?? 0;
  const tag = gateTag(line);
  return (
    <Row>
      <Glyph $state={tag.state}>
        <Arm state={tag.state} size={26} />
        {turns(line) ? (
          <input
            type="checkbox"
            aria-label={`Choose ${line.title || "Untitled"}`}
            checked={chosen}
            onChange={(event) => onChosen(event.target.checked)}
          />
        ) : null}
      </Glyph>
      <div>
        <Title as={line.folder ? "h3" : "h2"}>
          <Link
            to={line.rights.includes("review") ? "/q/$id/script" : "/q/$id/entries"}
            params={{ id: line.id }}
          >
            {line.title || "Untitled"}
          </Link>
        </Title>
        <Quiet>
          {line.edition === null ? "Draft, not published" : `Edition ${line.edition}`}
          {line.edition !== null && line.changed ? ", changed since" : ""}
          {line.template ? ", template" : ""}
        </Quiet>
      </div>
      <Arrivals days={line.arrivals} />
      <span>{line.edition === null ? <Tag $as="care">Draft</Tag> : <GateTag {...tag} />}</span>
      <span>
        {line.most === null
          ? count(line.entries, "entry")
          : `${line.taken ?? 0} of ${line.most} places`}
        {today ? <Quiet> {today} today</Quiet> : null}
        {line.failed && line.rights.includes("review") ? (
          <Failed>
            <Link to="/q/$id/dispatch" params={{ id: line.id }} search={{ runs: "open" }}>
              {count(line.failed, "act")} of dispatch not done
            </Link>
          </Failed>
        ) : null}
        {late ? (
          <Failed>
            <Link to="/q/$id/entries" params={{ id: line.id }} search={{ view: LATE }}>
              {count(late, "entry")} late
            </Link>
          </Failed>
        ) : null}
      </span>
    </Row>
  );
}

const Failed = styled.span`
  display: block;
  a {
    color: var(--rust);
  }
`;

const Overdue = styled.p`
  background: var(--ochre-soft);
  border-inline-start: 4px solid var(--ochre);
  padding: 10px 14px;
  margin-bottom: 18px;
`;

/** Says so when nobody files entries and sends letters. */
function Waits() {
  const { data } = useQuery(waiting);
  return (
    <div role="status">
      {data?.count && data.since ? (
        <Overdue>
          {count(data.count, "task")} {data.count === 1 ? "has" : "have"} been waiting since{" "}
          {whenAmid(data.since)}: entries are taken, but not filed, and no letters go out. Whoever
          runs this installation should see whether the worker is running.
        </Overdue>
      ) : null}
    </div>
  );
}

const Beside = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;

export function DeskRoom() {
  const begins = useMe().rights.includes("begin");
  const query = useQuery(questionnaires);
  const late = new Map(
    useQuery(lateEntries).data?.map((one) => [one.questionnaire_id, one.entries]),
  );
  const [adding, setAdding] = useState(false);
  const [importing, setImporting] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const choose = (id: string, on: boolean) => {
    const next = new Set(chosen);
    if (on) next.add(id);
    else next.delete(id);
    setChosen(next);
  };
  const lines = query.data ?? [];
  const today = lines.reduce((sum, line) => sum + (line.arrivals.at(-1) ?? 0), 0);
  return (
    <>
      <RoomHead>
        <h1>Desk</h1>
        <Quiet>
          {count(lines.length, "questionnaire")}, {count(today, "entry")} today
        </Quiet>
        {begins ? (
          <Beside>
            <Button onPress={() => setImporting(true)}>Import</Button>
            <Button weight="main" onPress={() => setAdding(true)}>
              New questionnaire
            </Button>
          </Beside>
        ) : null}
      </RoomHead>
      <Waits />
      <Loaded query={query}>
        {(found) =>
          found.length ? (
            foldersOf(found).map(({ folder, lines: inside }) => (
              <Folder key={folder} aria-label={folder || "Outside of any folder"}>
                {folder ? <h2>{folder}</h2> : null}
                <Lines>
                  {inside.map((line) => (
                    <DeskLine
                      key={line.id}
                      line={line}
                      late={late.get(line.id) ?? 0}
                      chosen={chosen.has(line.id)}
                      onChosen={(on) => choose(line.id, on)}
                    />
                  ))}
                </Lines>
              </Folder>
            ))
          ) : (
            <Empty title="Nothing here yet">
              {begins ? (
                <p>A questionnaire starts with its name. Everything else can be changed later.</p>
              ) : (
                <p>
                  You see the questionnaires here that you have a part in. Their owners give one.
                </p>
              )}
            </Empty>
          )
        }
      </Loaded>
      {chosen.size ? (
        <GatesBar
          lines={lines.filter(({ id }) => chosen.has(id))}
          onDone={() => setChosen(new Set())}
        />
      ) : null}
      {adding ? <NewSheet lines={lines} onClose={() => setAdding(false)} /> : null}
      {importing ? <ImportSheet onClose={() => setImporting(false)} /> : null}
    </>
  );
}
