/** The rules in force carried out on past entries: seen first, chosen, then done with progress. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { useLocation, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../../client/client";
import { Button } from "../../../ui/Button";
import { Actions } from "../../../ui/Sheet";
import { Strip } from "../../../ui/Strip";
import { Quiet } from "../../../ui/text";
import { Toggle } from "../../../ui/Toggle";
import { ConditionEditor } from "../../condition/ConditionEditor";
import { count, entryNumber, type Condition } from "../../document";
import { cellWords } from "../../registers/columns";
import { useRight } from "../../shell/rights";
import { useDoing } from "../../useDoing";
import type { ChosenEntries } from "../../views/view";
import { List, named } from "./Differences";
import type { Around } from "../editors";
import { KINDS, UnderWay, type Kind } from "./ReplayProgress";

type Left = Schema<"EntryLeft">;
type Effect = Left["effects"][number];

const Whole = styled.div`
  padding: 20px clamp(14px, 2.4vw, 30px) 40px;
  max-width: 900px;
  display: grid;
  gap: 14px;
  h2 {
    font-size: 22px;
  }
`;

const Kinds = styled.fieldset`
  border: 0;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  legend {
    font-weight: 600;
    padding: 0;
  }
`;

function Changes({ effect, around }: { effect: Effect; around: Around }) {
  if (effect.kind !== "row" || !effect.rows.length) return <ins>{named(effect, around)}</ins>;
  const register = around.known.find(({ id }) => id === effect.register_id);
  const column = (key: string) => register?.columns.find((one) => one.key === key);
  return effect.rows.map((row) => (
    <div key={row.id ?? 0}>
      Row {row.id} in {register?.name ?? "a register"}:{" "}
      {Object.keys({ ...row.before, ...row.after }).map((key) => (
        <span key={key}>
          {column(key)?.label ?? key} {cellWords(row.before[key], column(key)) || "empty"} to{" "}
          <b>{cellWords(row.after[key], column(key)) || "empty"}</b>{" "}
        </span>
      ))}
      {Object.keys({ ...row.before, ...row.after }).length ? null : "put back"}
    </div>
  ));
}

function useLook(id: string, chosen: ChosenEntries | null, when: Condition | null) {
  return useInfiniteQuery({
    queryKey: ["replay look", id, chosen, when],
    initialPageParam: null as number | null,
    queryFn: ({ pageParam: before }) =>
      got(
        client.POST("/api/questionnaires/{id}/dispatch/replay/look", {
          params: { path: { id } },
          body: { chosen: chosen?.entries ?? null, when, before },
        }),
      ),
    getNextPageParam: (page) => page.next,
    retry: false,
    gcTime: 0,
  });
}

interface ChoosingProps {
  id: string;
  /** The entries that are meant, every one where it is null. */
  among: ChosenEntries | null;
  around: Around;
  revision: number;
  onAsked: (workId: string) => void;
}

function Choosing({ id, among, around, revision, onAsked }: ChoosingProps) {
  const writes = useRight("write");
  const [draft, setDraft] = useState<Condition | null>(null);
  const [when, setWhen] = useState<Condition | null>(null);
  const [kinds, setKinds] = useState<readonly Kind[]>(["row"]);
  const [takeOut, setTakeOut] = useState(false);
  const [but, setBut] = useState<ReadonlySet<number>>(new Set());
  const query = useLook(id, among, when);
  const pages = query.data?.pages ?? [];
  const looked = pages.reduce((sum, page) => sum + page.looked_at, 0);
  const found = pages.flatMap((page) => page.entries);
  const chosen = found.filter(({ number }) => !but.has(number));
  const isAll = !but.size;
  const last = among && !query.hasNextPage ? "" : "the last ";
  const asking = useDoing(
    () =>
      got(
        client.POST("/api/questionnaires/{id}/dispatch/replay", {
          params: { path: { id } },
          body: {
            kinds: [...kinds],
            take_out: takeOut,
            revision,
            when,
            chosen: isAll
              ? (among?.entries ?? null)
              : { numbers: chosen.map(({ number }) => number) },
          },
        }),
      ),
    [],
    (work) => onAsked(work.id),
  );
  const left = found.reduce((sum, { rows }) => sum + rows.length, 0);
  return (
    <>
      <section aria-label="Which entries">
        <ConditionEditor
          condition={draft}
          subjects={around.subjects}
          onChange={setDraft}
          none={among ? "All of them are looked at." : "All entries are looked at."}
        />
        {JSON.stringify(draft) === JSON.stringify(when) ? null : (
          <Button onPress={() => setWhen(draft)}>Look at these entries</Button>
        )}
      </section>
      {query.error ? <Strip tone="wrong">{query.error.message}</Strip> : null}
      <p role="status">
        {query.isFetching
          ? "Looking"
          : found.length
            ? `Of ${last}${count(looked, "entry")}, something is left to do with ${found.length}.`
            : `With ${last}${count(looked, "entry")} nothing is left to do.`}{" "}
        <Quiet>What was done once is not done again.</Quiet>
      </p>
      <List>
        {found.slice(0, 100).map((one) => (
          <li key={one.id}>
            <Toggle
              isSelected={!but.has(one.number)}
              onChange={(on) => {
                const next = new Set(but);
                if (on) next.delete(one.number);
                else next.add(one.number);
                setBut(next);
              }}
            >
              Entry {entryNumber(one.number)}
            </Toggle>
            {one.effects.map((effect, at) => (
              <Changes key={at} effect={effect} around={around} />
            ))}
            {one.rows.map(({ register_id, row }) => (
              <del key={row}>
                row {row} in {around.known.find(({ id: own }) => own === register_id)?.name}
              </del>
            ))}
          </li>
        ))}
      </List>
      {found.length > 100 ? <Quiet>and {found.length - 100} more</Quiet> : null}
      {query.hasNextPage ? (
        <div>
          <Button isDisabled={query.isFetching} onPress={() => void query.fetchNextPage()}>
            Look further back
          </Button>
        </div>
      ) : null}
      {writes && found.length ? (
        <>
          <Kinds>
            <legend>Carry out</legend>
            {KINDS.map(({ code, label }) => (
              <Toggle
                key={code}
                isSelected={kinds.includes(code)}
                onChange={(on) =>
                  setKinds(on ? [...kinds, code] : kinds.filter((one) => one !== code))
                }
              >
                {label}
              </Toggle>
            ))}
            {left ? (
              <Toggle isSelected={takeOut} onChange={setTakeOut}>
                Take out {count(left, "row")} that no rule files any more
              </Toggle>
            ) : null}
          </Kinds>
          {asking.error ? <Strip tone="wrong">{asking.error.message}</Strip> : null}
          <Actions>
            <Button
              weight="main"
              isDisabled={asking.isPending || !chosen.length || (!kinds.length && !takeOut)}
              onPress={() => asking.mutate()}
            >
              {isAll && query.hasNextPage
                ? among
                  ? `Replay ${count(among.count, "chosen entry")}`
                  : "Replay all entries"
                : `Replay ${count(chosen.length, "entry")}`}
            </Button>
          </Actions>
        </>
      ) : null}
    </>
  );
}

interface ReplayProps {
  id: string;
  around: Around;
  revision: number;
  /** Whether there are changes of the rules that are not in force yet. */
  changed: boolean;
}

export function Replay({ id, around, revision, changed }: ReplayProps) {
  const [workId, setWorkId] = useState("");
  const chosen = useLocation({ select: ({ state }) => state.chosen ?? null });
  const navigate = useNavigate();
  return (
    <Whole>
      <h2>Replay</h2>
      <p>
        The rules in force, carried out on entries that arrived before. A row that was filed for an
        entry is brought up to date and never added again; cells changed by hand stay.
      </p>
      {changed ? (
        <Strip>There are changes that are not applied yet: they are not part of this.</Strip>
      ) : null}
      {chosen && !workId ? (
        <Strip>
          {chosen.count === 1 ? "For the entry" : `For the ${count(chosen.count, "entry")}`} that
          you chose in the table.{" "}
          <Button
            weight="word"
            onPress={() =>
              void navigate({ to: ".", search: (before) => before, state: {}, replace: true })
            }
          >
            Look at all entries
          </Button>
        </Strip>
      ) : null}
      {workId ? (
        <UnderWay key={workId} id={id} workId={workId} onEnd={() => setWorkId("")} />
      ) : (
        <Choosing
          key={JSON.stringify(chosen)}
          id={id}
          among={chosen}
          around={around}
          revision={revision}
          onAsked={setWorkId}
        />
      )}
    </Whole>
  );
}
