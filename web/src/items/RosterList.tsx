/** A roster: the same questions for each entry; one entry is open at a time. */
import { memo, useContext, useState } from "react";
import styled from "styled-components";

import type { Fault } from "../client/client";
import { Button } from "../ui/Button";
import { Group } from "../ui/Group";
import { useLatest } from "../ui/latest";
import {
  faultsIn,
  fieldOf,
  isEmpty,
  isWithin,
  lines,
  type Item,
  type Line,
  type HoldingProps,
  type QuestionProps,
} from "./answer";
import { focusSoon, Reveal } from "./reveal";
import { useShared } from "./shared";
import { titleOf } from "./title";
import { useSay } from "./words";

const Entries = styled.ol`
  > li {
    border: 1.5px solid var(--edge);
    border-radius: 4px;
    margin-top: 8px;
  }
  > li[data-open] {
    border-color: var(--accent);
  }
  > li[data-wrong] {
    border-color: var(--rust);
  }
`;

const Top = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  align-items: center;
  padding: 5px 8px 5px 14px;
  min-height: 46px;
  > span {
    flex: 1;
    min-width: 9em;
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  button {
    min-height: 40px;
  }
`;

const Inside = styled.div`
  display: grid;
  gap: 22px;
  padding: 6px 14px 16px;
  border-top: 1px solid var(--line);
`;

const Foot = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  margin-top: 10px;
  > button {
    min-height: 46px;
    font-size: inherit;
  }
`;

/** The entries to show: one to begin with, where there has to be one. */
function entriesOf(item: Item, answer: QuestionProps["answer"]): readonly Line[] {
  const found = lines(answer);
  return found.length || !(item.fewest || item.required) ? found : [{}];
}

interface Removed {
  line: Line;
  number: number;
  label: string;
}

export function RosterList(props: HoldingProps) {
  const { item, at, answer, faults, onAnswer, onLeave, Inner } = props;
  const say = useSay();
  const { id, label, help, error } = useShared(props);
  const entries = entriesOf(item, answer);
  const revealed = useContext(Reveal);
  const [open, setOpen] = useState<number | null>(() => firstOpen(entries));
  const [removed, setRemoved] = useState<Removed | null>(null);
  const [seen, setSeen] = useState(revealed);
  if (seen !== revealed) {
    setSeen(revealed);
    const number = entryAt(revealed.place, at);
    if (number !== null) setOpen(number);
  }
  const noun = item.noun ?? "";
  const name = (number: number) =>
    titleOf(item, entries[number] ?? {}, say) || say("entry", { noun, number: number + 1 });
  const set = (next: readonly Line[], place = at) => onAnswer(next, place);
  const add = () => {
    set([...entries, {}]);
    setRemoved(null);
    setOpen(entries.length);
    focusSoon(`${at}/${entries.length}`);
  };
  const remove = (number: number) => {
    setRemoved({ line: entries[number] ?? {}, number, label: name(number) });
    set(entries.filter((_, other) => other !== number));
    setOpen(null);
    focusSoon(at);
  };
  const act = (number: number, done: Done) => {
    if (done.kind === "removed") remove(number);
    else if (done.kind === "answered") {
      set(
        entries.map((one, other) => (other === number ? done.line : one)),
        done.place,
      );
    } else {
      setOpen(done.kind === "opened" ? number : null);
      if (done.kind === "opened") focusSoon(`${at}/${number}`);
    }
  };
  const onEntry = useLatest(act);
  const restore = (gone: Removed) => {
    set([...entries.slice(0, gone.number), gone.line, ...entries.slice(gone.number)]);
    setRemoved(null);
  };
  return (
    <Group id={id} label={label} help={help} error={error}>
      {entries.length ? null : <p>{say("roster_none")}</p>}
      <Entries>
        {entries.map((line, number) => (
          <Entry
            key={number}
            asked={item.entries?.[number] ?? item.items ?? NONE}
            at={`${at}/${number}`}
            number={number}
            line={line}
            name={name(number)}
            isOpen={open === number}
            faults={faultsIn(faults, `${at}/${number}`)}
            onEntry={onEntry}
            onLeave={onLeave}
            Inner={Inner}
          />
        ))}
      </Entries>
      <Foot>
        {entries.length < (item.most ?? 200) ? (
          <Button onPress={add}>{say("add", { noun })}</Button>
        ) : null}
        <span role="status">{removed ? say("removed", { label: removed.label }) : ""}</span>
        {removed ? (
          <Button weight="word" onPress={() => restore(removed)}>
            {say("undo")}
          </Button>
        ) : null}
      </Foot>
    </Group>
  );
}

/** The number of the entry that a place inside the roster at `at` stands in. */
function entryAt(place: string, at: string): number | null {
  const number = Number(place.slice(at.length + 1).split("/")[0]);
  return isWithin(place, at) && place !== at && !Number.isNaN(number) ? number : null;
}

function firstOpen(entries: readonly Line[]): number | null {
  const blank = entries.findIndex((line) => isEmpty(line));
  return blank < 0 ? null : blank;
}

/** What was done in an entry. */
type Done =
  | { kind: "opened" }
  | { kind: "folded" }
  | { kind: "removed" }
  | { kind: "answered"; line: Line; place: string };

const NONE: readonly Item[] = [];

interface EntryProps {
  /** What it asks. */
  asked: readonly Item[];
  at: string;
  number: number;
  line: Line;
  name: string;
  isOpen: boolean;
  faults: readonly Fault[];
  onEntry: (number: number, done: Done) => void;
  onLeave: QuestionProps["onLeave"];
  Inner: HoldingProps["Inner"];
}

/** Drawn again only when something about it has changed. */
const Entry = memo(function Entry(props: EntryProps) {
  const { asked, at, number, line, name, isOpen, faults, onEntry, onLeave, Inner } = props;
  const say = useSay();
  return (
    <li data-open={isOpen || undefined} data-wrong={faults.length > 0 || undefined}>
      <div role="group" aria-label={name} id={fieldOf(at)} tabIndex={-1}>
        <Top>
          <span>{name}</span>
          <Button
            weight="word"
            aria-expanded={isOpen}
            aria-label={`${say(isOpen ? "done" : "change")}: ${name}`}
            onPress={() => onEntry(number, { kind: isOpen ? "folded" : "opened" })}
          >
            {say(isOpen ? "done" : "change")}
          </Button>
          <Button
            weight="word"
            aria-label={`${say("remove")}: ${name}`}
            onPress={() => onEntry(number, { kind: "removed" })}
          >
            {say("remove")}
          </Button>
        </Top>
        {isOpen ? (
          <Inside>
            {asked.map((one) => (
              <Inner
                key={one.key}
                item={one}
                at={`${at}/${one.key}`}
                answer={line[one.key] ?? null}
                faults={faultsIn(faults, `${at}/${one.key}`)}
                onAnswer={(value, place) =>
                  onEntry(number, { kind: "answered", line: { ...line, [one.key]: value }, place })
                }
                onLeave={onLeave}
              />
            ))}
          </Inside>
        ) : null}
      </div>
    </li>
  );
});
