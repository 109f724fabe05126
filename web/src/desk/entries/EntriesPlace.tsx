/** Entries: a table of what has arrived, and one of them in full beside it. */
import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Toggle } from "../../ui/Toggle";
import { Quiet, Unseen } from "../../ui/text";
import { count as counted } from "../document";
import { useRight } from "../shell/rights";
import { Broken, Empty, Waiting } from "../shell/states";
import { useStatuses } from "../handling";
import { shownAlone, shownOnly } from "../views/shown";
import { Standing } from "../statuses/Standing";
import { StatusesSheet } from "../statuses/StatusesSheet";
import { ViewBar } from "../views/ViewBar";
import { Views, type KeepsViews } from "../views/Views";
import { viewDeeds } from "../views/deeds";
import { placed } from "../views/layout";
import { asked, type TableView } from "../views/view";
import { ActingStrip, useActing } from "./Acting";
import { ChosenBar } from "./ChosenBar";
import { columnsOf, subjectsOf } from "./columns";
import { entryColumns, entryCount, keepView, removeView, type Looked } from "./data";
import { Entering } from "./Entering";
import { EntryGrid } from "./EntryGrid";
import { NUMBER_WIDTH } from "./EntryLine";
import { Export } from "./Export";
import { factWords } from "./facts";
import { linesOf } from "./lines";
import { Reading } from "./reading/Reading";
import { useSelection } from "./selection";
import { NoEntries, Told } from "./reading/Told";
import { useLooked } from "./useLooked";
import { saidIn, useWords } from "./words";
import { newestFirst, useArrivals, useEntries } from "./useEntries";

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  &[data-beside] {
    grid-template-columns: minmax(0, 1fr) 384px;
  }
  height: calc(100vh - 102px);
  min-height: 420px;
  @media (max-width: 980px), (max-height: 560px) {
    &,
    &[data-beside] {
      grid-template-columns: minmax(0, 1fr);
      height: auto;
    }
  }
`;

const Table = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto auto minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
  @media (max-width: 980px), (max-height: 560px) {
    [role="grid"] {
      height: 60vh;
    }
  }
`;

const Heading = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  padding: 9px 20px;
  align-items: center;
  h2 {
    font-size: 15.5px;
  }
  > :last-child {
    margin-inline-start: auto;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    align-items: baseline;
  }
`;

const keepsViews = (id: string): KeepsViews => ({
  keep: (viewId, body) => keepView(id, viewId, body),
  remove: (viewId) => removeView(id, viewId),
  changed: [entryColumns(id).queryKey],
  plain: "all entries",
  everybody: "For everybody who reads these entries",
});

export function EntriesPlace() {
  const { id, looked, entry, setView, setArchived, setEntry } = useLooked();
  const columns = useQuery(entryColumns(id));
  if (columns.isError)
    return <Broken error={columns.error} onRetry={() => void columns.refetch()} />;
  if (!columns.data) return <Waiting />;
  if (!columns.data.total) return <NoEntries id={id} />;
  return (
    <Opened
      id={id}
      looked={looked}
      known={columns.data}
      chosen={entry}
      onView={setView}
      onArchived={setArchived}
      onEntry={setEntry}
    />
  );
}

interface OpenedProps {
  id: string;
  looked: Looked;
  known: Schema<"EntryColumns">;
  chosen: string | undefined;
  onView: (view: TableView) => void;
  onArchived: (archived: boolean) => void;
  onEntry: (entry: string) => void;
}

function Opened({ id, looked, known, chosen, onView, onArchived, onEntry }: OpenedProps) {
  const { view, archived } = looked;
  const [isFiltering, setFiltering] = useState(false);
  const facts = useMemo(() => factWords(known.zone), [known.zone]);
  const writes = useRight("write");
  const enters = useRight("review");
  const mayAct = useStatuses(id).maySet.size > 0 || writes;
  const all = useMemo(() => columnsOf(known.columns), [known]);
  const subjects = useMemo(() => subjectsOf(known.columns), [known]);
  const columns = useMemo(() => placed(all, view, NUMBER_WIDTH), [all, view]);
  const { query, entries, head } = useEntries(id, looked);
  const arrivals = useArrivals(id, looked, entries, head);
  const words = useWords(id, looked, facts, head?.cleared ?? false);
  const many = useQuery(entryCount(id, looked)).data?.entries;
  const key = JSON.stringify([asked(view), archived]);
  const selection = useSelection(many ?? entries.length, key);
  const grouped = known.columns.find(({ key }) => key === view.group);
  const lines = useMemo(() => linesOf(entries, saidIn(grouped, facts)), [entries, grouped, facts]);
  const acting = useActing(id);
  const pane = useRef<HTMLDivElement>(null);
  const [asAsked, setAsAsked] = useState(false);
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = query;
  const onEnd = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  const current = chosen ?? entries[0]?.id;
  const at = entries.findIndex((one) => one.id === current);
  const step = (by: number) => {
    const next = entries[at + by];
    if (next) onEntry(next.id);
  };
  const isAll = !view.filter && !view.search;
  return (
    <Whole
      data-beside={current ? true : undefined}
      onKeyDown={(event) => {
        if (!event.altKey) return;
        if (event.code === "KeyL") setAsAsked(!asAsked);
        else if (event.key === "ArrowDown" || event.key === "ArrowUp")
          step(event.key === "ArrowDown" ? 1 : -1);
        else return;
        event.preventDefault();
      }}
    >
      <Table>
        <Heading>
          <Views
            keeps={keepsViews(id)}
            views={known.views}
            view={view}
            mayShare={writes}
            onView={onView}
          />
          <Quiet>
            {many === undefined
              ? "counting…"
              : isAll
                ? counted(many, "entry")
                : `${many} of ${known.total}`}
          </Quiet>
          <span>
            <Toggle isSelected={archived} onChange={onArchived}>
              With the archive
            </Toggle>
            {writes ? <StatusesSheet id={id} changed={[entryColumns(id).queryKey]} /> : null}
            {enters ? <Entering id={id} /> : null}
            <Export
              id={id}
              looked={looked}
              many={many === undefined ? "entries" : counted(many, "entry")}
            />
          </span>
        </Heading>
        <div>
          <Standing
            id={id}
            shown={shownAlone(view, "entry.status") as string | undefined}
            isLate={shownAlone(view, "entry.late") === true}
            onStatus={({ key }) => onView(shownOnly(view, "entry.status", key))}
            onLate={() => onView(shownOnly(view, "entry.late", true))}
          />
          <ViewBar
            things="entries"
            sought="Find words in answers"
            view={view}
            columns={all}
            subjects={subjects}
            isFiltering={isFiltering}
            onFiltering={setFiltering}
            onView={onView}
          />
          {mayAct && selection.count ? (
            <ChosenBar
              id={id}
              looked={looked}
              selection={selection}
              numbers={entries.filter(selection.has).map(({ number }) => number)}
              isBusy={acting.isBusy}
              onAct={acting.begin}
            />
          ) : null}
          <Unseen aria-live="polite">{selection.count ? `${selection.count} chosen` : ""}</Unseen>
          <ActingStrip of={acting} />
          <Told
            waiting={arrivals.waiting}
            lag={head?.lag ?? 0}
            making={head?.making ?? false}
            onShow={() => void query.refetch()}
          />
        </div>
        {query.isError ? (
          <Broken error={query.error} onRetry={() => onView({})} stands="room" />
        ) : !head ? (
          <Waiting />
        ) : !entries.length ? (
          <Empty title={isAll ? "Every entry is in the archive" : "No entry is like that"}>
            {isAll ? (
              <Button onPress={() => onArchived(true)}>Show the archive too</Button>
            ) : (
              <Button onPress={() => onView({ ...view, filter: null, search: "" })}>
                Show all entries
              </Button>
            )}
          </Empty>
        ) : (
          <EntryGrid
            lines={lines}
            columns={columns}
            view={view}
            deeds={viewDeeds(all, view, onView, () => setFiltering(true))}
            words={words}
            current={current}
            selection={selection}
            fresh={arrivals.fresh}
            above={newestFirst(looked) ? arrivals.above : 0}
            onCurrent={(one) => onEntry(one.id)}
            onEnd={onEnd}
            onRead={() => pane.current?.focus()}
          />
        )}
      </Table>
      {current ? (
        <Reading
          id={id}
          entryId={current}
          pane={pane}
          at={at}
          of={many ?? entries.length}
          asAsked={asAsked}
          onAsAsked={setAsAsked}
          onStep={step}
        />
      ) : null}
    </Whole>
  );
}
