/** The trail: a diary of who did and who saw what. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Quiet } from "../../ui/text";
import { people, questionnaires, registers, trailPage } from "../data";
import { useMe } from "../shell/me";
import { RoomHead } from "../shell/Office";
import { Broken, Empty, Waiting } from "../shell/states";
import { ACTIONS, asked, type TrailSearch } from "../trailFilter";
import { useOlder } from "../useOlder";
import { clockOf, dayOf } from "../when";
import { said } from "./words";

type Mark = Schema<"TrailEntryOut">;

const Wanted = styled.form`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: baseline;
  padding: 8px 0 16px;
  input {
    border: 1px solid transparent;
    border-radius: 4px;
    background: var(--accent-soft);
    color: var(--ink);
    font: 600 14px var(--body);
    min-height: 28px;
    padding: 2px 6px;
  }
`;

const Day = styled.section`
  margin-top: 20px;
  h2 {
    font-size: 16px;
    border-bottom: 1px solid var(--line-2);
    padding-bottom: 4px;
  }
  li {
    display: grid;
    grid-template-columns: 52px minmax(0, 1fr);
    gap: 4px 12px;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  time {
    font: 12.5px/1.7 var(--mono);
    color: var(--ink-3);
  }
`;

function byDay(marks: readonly Mark[]): [string, Mark[]][] {
  const found = new Map<string, Mark[]>();
  for (const mark of marks) {
    const day = dayOf(mark.at);
    found.set(day, [...(found.get(day) ?? []), mark]);
  }
  return [...found];
}

const any = (label: string) => ({ code: "", label });

interface FilterProps {
  search: TrailSearch;
  onChange: (search: TrailSearch) => void;
}

function useNames() {
  const runs = useMe().rights.includes("run");
  return {
    people: useQuery({ ...people, enabled: runs }).data?.people ?? [],
    questionnaires: useQuery(questionnaires).data ?? [],
    registers: useQuery(registers).data ?? [],
  };
}

function Filter({ search, onChange }: FilterProps) {
  const names = useNames();
  const set = (changed: Partial<Record<keyof TrailSearch, string>>) => {
    const next = { ...search, ...changed };
    onChange(Object.fromEntries(Object.entries(next).filter(([, value]) => value)));
  };
  return (
    <Wanted onSubmit={(event) => event.preventDefault()} aria-label="What is shown">
      Shown is
      <Choose
        name="Kind"
        value={search.action ?? ""}
        options={[any("everything"), ...kinds()]}
        onChange={(action) => set({ action: action })}
      />
      {names.people.length ? (
        <>
          by or about
          <Choose
            name="Person"
            value={search.person ?? ""}
            options={[any("anybody"), ...names.people.map(named)]}
            onChange={(person) => set({ person })}
          />
        </>
      ) : null}
      in
      <Choose
        name="Questionnaire"
        value={search.questionnaire ?? ""}
        options={[
          any("any questionnaire"),
          ...names.questionnaires.map(({ id, title }) => ({ code: id, label: title })),
        ]}
        onChange={(questionnaire) => set({ questionnaire, entry: "", answer: "" })}
      />
      from
      <input
        type="date"
        aria-label="From"
        value={search.from ?? ""}
        onChange={(event) => set({ from: event.target.value })}
      />
      to
      <input
        type="date"
        aria-label="To"
        value={search.to ?? ""}
        onChange={(event) => set({ to: event.target.value })}
      />
      {Object.keys(search).length ? (
        <Button weight="word" onPress={() => onChange({})}>
          Show everything
        </Button>
      ) : null}
    </Wanted>
  );
}

const kinds = () => Object.entries(ACTIONS).map(([code, label]) => ({ code, label }));

const named = ({ id, name }: { id: string; name: string }) => ({ code: id, label: name });

function exportOf(search: TrailSearch): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(asked(search))) {
    for (const one of [value].flat()) query.append(name, String(one));
  }
  return `/api/trail/export?${query.toString()}`;
}

function Line({ mark, titles }: { mark: Mark; titles: ReadonlyMap<string, string> }) {
  const where = mark.questionnaire_id ?? mark.register_id ?? "";
  return (
    <li>
      <time dateTime={mark.at}>{clockOf(mark.at)}</time>
      <span>
        {mark.who ? <b>{mark.who}</b> : <Quiet>Nobody of the office:</Quiet>} {said(mark)}
        {titles.has(where) ? <Quiet> in {titles.get(where)}</Quiet> : null}
      </span>
    </li>
  );
}

export function TrailRoom() {
  const search = useSearch({ from: "/office/trail" });
  const navigate = useNavigate();
  const names = useNames();
  const titles = new Map([
    ...names.questionnaires.map(({ id, title }) => [id, title] as const),
    ...names.registers.map(({ id, name }) => [id, name] as const),
  ]);
  const query = useOlder(
    ["trail", search],
    (before) => trailPage(asked(search), before),
    (page) => page.marks.at(-1)?.id,
  );
  const marks = query.data?.pages.flatMap((page) => page.marks) ?? [];
  return (
    <>
      <RoomHead>
        <h1>Trail</h1>
        <Quiet>
          {search.entry ? "Of one entry" : "Who did and who saw what"}
          {search.answer ? `, the answer ${search.answer}` : ""}, the newest first
        </Quiet>
        <a href={exportOf(search)} download="trail.csv">
          Export as CSV
        </a>
      </RoomHead>
      <Filter search={search} onChange={(next) => void navigate({ to: "/trail", search: next })} />
      {query.isError ? (
        <Broken error={query.error} onRetry={() => void query.refetch()} />
      ) : query.data === undefined ? (
        <Waiting />
      ) : marks.length ? (
        byDay(marks).map(([day, lines]) => (
          <Day key={day} aria-label={day}>
            <h2>{day}</h2>
            <ul>
              {lines.map((mark) => (
                <Line key={mark.id} mark={mark} titles={titles} />
              ))}
            </ul>
          </Day>
        ))
      ) : (
        <Empty title="Nothing of that kind">
          <p>Nothing on the trail matches what is chosen.</p>
        </Empty>
      )}
      {query.hasNextPage ? (
        <p style={{ marginTop: 14 }}>
          <Button onPress={() => void query.fetchNextPage()}>Show older</Button>
        </p>
      ) : null}
    </>
  );
}
