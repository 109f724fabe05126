/** One register: its rows in a grid, and beside it what became of one of them. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useCallback, useMemo, useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Broken, Waiting } from "../shell/states";
import { subjectsOf } from "./subjects";
import { ColumnsSheet } from "./ColumnsSheet";
import { keepView, registerRead, removeView, type RegisterRead } from "./data";
import type { TableView } from "../views/view";
import { Foot } from "./Foot";
import { Heading, NoRows } from "./Heading";
import { GridView } from "./grid/GridView";
import type { HeadDeeds } from "../views/HeadCell";
import { viewDeeds } from "../views/deeds";
import { placed } from "../views/layout";
import { TYPES, type Column } from "./columns";
import { ImportSheet } from "./ImportSheet";
import { MoreDeeds } from "./MoreDeeds";
import { RowPane } from "./RowPane";
import { useGrid, useNews, useOrder, type Others } from "./useRegister";
import { ViewBar } from "../views/ViewBar";
import { Views, type KeepsViews } from "../views/Views";

const Whole = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  &[data-beside] {
    grid-template-columns: minmax(0, 1fr) 320px;
  }
  height: calc(100vh - 48px);
  @media (max-width: 900px), (max-height: 560px) {
    &,
    &[data-beside] {
      grid-template-columns: minmax(0, 1fr);
      height: auto;
    }
  }
`;

const Left = styled.div`
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  grid-template-columns: minmax(0, 1fr);
  min-height: 0;
  @media (max-width: 900px), (max-height: 560px) {
    [role="grid"] {
      height: 60vh;
    }
  }
`;

/** What is looked at stands in the address. */
function useView() {
  const { view, row } = useSearch({ from: "/registers/$registerId" });
  const id = useParams({ from: "/registers/$registerId" }).registerId;
  const navigate = useNavigate();
  const go = useCallback(
    (next: { view?: TableView; row?: number }) =>
      void navigate({
        to: "/registers/$registerId",
        params: { registerId: id },
        search: (now) => ({ ...now, ...next }),
        replace: true,
      }),
    [id, navigate],
  );
  const current = useMemo<TableView>(() => view ?? {}, [view]);
  return {
    id,
    view: current,
    row,
    setView: useCallback((next: TableView) => go({ view: next }), [go]),
    openRow: useCallback((next: number | undefined) => go({ row: next }), [go]),
  };
}

export function RegisterRoom() {
  const { id } = useView();
  const query = useQuery(registerRead(id));
  if (query.isError)
    return <Broken error={query.error} onRetry={() => void query.refetch()} stands="page" />;
  if (!query.data) return <Waiting />;
  return <Opened key={id} read={query.data} />;
}

const noted = (one: Column) => ({ ...one, note: TYPES[one.type ?? "text"] });

const keepsViews = (id: string): KeepsViews => ({
  keep: (viewId, body) => keepView(id, viewId, body),
  remove: (viewId) => removeView(id, viewId),
  changed: [registerRead(id).queryKey],
  plain: "all rows",
  everybody: "For everybody who reads this register",
});

/** Who is in which cell. */
function placesOf(others: Others): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  for (const { at, name } of others) {
    const before = found.get(at);
    if (at) found.set(at, before ? `${before}, ${name}` : name);
  }
  return found;
}

function Opened({ read }: { read: RegisterRead }) {
  const { id, view, row, setView, openRow } = useView();
  const { register, rights } = read;
  const [isFiltering, setFiltering] = useState(false);
  const [isImporting, setImporting] = useState(false);
  const [changing, setChanging] = useState<string | null>(null);
  const [told, setTold] = useState("");
  const grid = useGrid(id);
  const ordered = useOrder(id, grid, view);
  const ready = Boolean(ordered.data) && !ordered.isPlaceholderData;
  const others = useNews(id, grid, view, register.revision ?? 1, ready);
  const places = useMemo(() => placesOf(others), [others]);
  const people = useMemo(() => new Map(read.people.map((one) => [one.id, one.name])), [read]);
  const columns = useMemo(() => placed(register.columns.map(noted), view), [register, view]);
  const subjects = useMemo(() => subjectsOf(register.columns, people), [register, people]);
  const mayWrite = rights.includes("write");
  const deeds: HeadDeeds = {
    ...viewDeeds(register.columns, view, setView, () => setFiltering(true)),
    change: mayWrite ? setChanging : null,
  };
  return (
    <Whole id="main" data-beside={row ? true : undefined}>
      <Left>
        <Heading read={read} grid={grid} others={others}>
          <Views
            keeps={keepsViews(id)}
            views={read.views}
            view={view}
            mayShare={mayWrite}
            onView={setView}
          />
          {rights.includes("share") ? (
            <Link to="/registers/$registerId/people" params={{ registerId: id }}>
              People
            </Link>
          ) : null}
          <MoreDeeds read={read} view={view} onTold={setTold} />
          {mayWrite ? (
            <>
              <Button onPress={() => setImporting(true)}>Import</Button>
              <Button onPress={() => setChanging("")}>Columns</Button>
              <Button weight="main" onPress={() => void grid.write([], [{}])}>
                Add a row
              </Button>
            </>
          ) : null}
        </Heading>
        <div>
          <ViewBar
            things="rows"
            sought="Find in all columns"
            view={view}
            columns={register.columns}
            subjects={subjects}
            isFiltering={isFiltering}
            onFiltering={setFiltering}
            onView={setView}
          />
        </div>
        {ordered.isError ? (
          <Broken error={ordered.error} onRetry={() => setView({})} stands="room" />
        ) : ready && !grid.count && !read.rows ? (
          <NoRows grid={grid} mayWrite={mayWrite} />
        ) : (
          <GridView
            name={`Register ${register.name}`}
            grid={grid}
            columns={columns}
            known={register.columns}
            view={view}
            people={people}
            deeds={deeds}
            mayWrite={mayWrite}
            open={row}
            others={places}
            onOpenRow={openRow}
            onTold={setTold}
          />
        )}
        <Foot
          grid={grid}
          columns={register.columns}
          total={read.rows}
          more={ordered.data?.more ?? false}
          told={told}
          mayWrite={mayWrite}
          onTold={setTold}
        />
      </Left>
      {row ? (
        <RowPane key={row} id={id} row={row} people={people} onClose={() => openRow(undefined)} />
      ) : null}
      <ImportSheet
        open={isImporting}
        id={id}
        columns={register.columns}
        onClose={() => {
          setImporting(false);
          void ordered.refetch();
        }}
      />
      <ColumnsSheet
        open={changing !== null}
        at={changing ?? ""}
        read={read}
        onClose={() => setChanging(null)}
      />
    </Whole>
  );
}
