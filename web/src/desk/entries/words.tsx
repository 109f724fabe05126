/** What the cells of the table and the heads of its groups read as. */
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";

import { Tag } from "../../ui/Arm";
import { count } from "../document";
import { isLate, statusOf, useStatuses } from "../handling";
import { ThingName } from "../shell/ThingName";
import { StatusMark } from "../statuses/StatusMark";
import { when } from "../when";
import type { Column } from "./columns";
import { entryGroups, type Entry, type Looked, type TableColumn } from "./data";
import type { Words } from "./EntryLine";
import type { FactWords } from "./facts";

export function useWords(id: string, looked: Looked, facts: FactWords, cleared: boolean): Words {
  const groups = useQuery(entryGroups(id, looked)).data;
  const { every } = useStatuses(id);
  return useMemo(() => {
    const counts = new Map(groups?.map(({ words, entries }) => [words, entries]));
    const cell = (entry: Entry, { key, of }: Column) => {
      if (key === "entry.arrived")
        return entry.archived ? (
          <>
            {when(entry.arrived)} <Tag $as="plain">Archived</Tag>
          </>
        ) : (
          when(entry.arrived)
        );
      if (key === "entry.about") return entry.about ? <ThingName thing={entry.about} /> : "—";
      if (key === "entry.status") {
        const status = statusOf(every, entry.status);
        return status ? (
          <StatusMark status={status}>
            {isLate(every, entry) ? <Tag $as="shut">Late</Tag> : null}
          </StatusMark>
        ) : (
          "—"
        );
      }
      if (key === "entry.late") return isLate(every, entry) ? "Yes" : "No";
      if (of.fact) return facts(entry, of) || "—";
      return entry.answers[key] ?? "—";
    };
    return {
      cell,
      group: (said) => {
        const many = counts.get(said);
        return many === undefined ? "" : count(many, "entry");
      },
      covered: (entry, key) => !cleared || (entry.withheld?.includes(key) ?? false),
    };
  }, [facts, groups, cleared, every]);
}

/** What an entry says in the column that is grouped by, as the groups have it. */
export function saidIn(column: TableColumn | undefined, facts: FactWords) {
  if (!column) return null;
  const { fact, key } = column;
  return (entry: Entry): string => (fact ? facts(entry, column) : (entry.answers[key] ?? ""));
}
