/** What can be done with the entries that are chosen. */
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import { count } from "../document";
import { careOf, careOptions, useCarers, useStatuses } from "../handling";
import { DeleteSheet } from "../shell/DeleteSheet";
import { useRight } from "../shell/rights";
import { StatusGlyph } from "../statuses/StatusMark";
import type { Looked } from "./data";
import { Export } from "./Export";
import { Print } from "./reading/Print";
import type { Selection } from "./selection";

export type EntryAct = Schema<"EntryActIn">;

const Bar = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  padding: 7px 20px;
  background: var(--flax-soft);
  border-block-start: 1px solid var(--line);
`;

const First = styled.span`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-block: 12px 4px;
`;

interface ChosenBarProps {
  id: string;
  looked: Looked;
  selection: Selection;
  /** Those that are chosen, as far as they were read. */
  numbers: readonly number[];
  /** While something is under way nothing else is begun. */
  isBusy: boolean;
  onAct: (act: EntryAct) => void;
}

export function ChosenBar({ id, looked, selection, numbers, isBusy, onAct }: ChosenBarProps) {
  const { every, maySet } = useStatuses(id);
  const writes = useRight("write");
  const statuses = every.filter(({ key }) => maySet.has(key));
  const carers = useCarers(id, writes);
  const [deleting, setDeleting] = useState(false);
  const meant = { numbers: [...selection.numbers], all: selection.all, ...looked };
  const act = (what: Pick<EntryAct, "do"> & Partial<EntryAct>) => onAct({ ...meant, ...what });
  const navigate = useNavigate();
  const replay = () =>
    void navigate({
      to: "/q/$id/dispatch",
      params: { id },
      search: { runs: "replay" },
      state: { chosen: { entries: meant, count: selection.count } },
    });
  const many = count(selection.count, "entry");
  const chosen = { numbers: selection.numbers, but: selection.all };
  return (
    <Bar role="group" aria-label="The chosen entries">
      <b>{many} chosen</b>
      {statuses.length ? (
        <Picker
          inline
          label="Status of the chosen entries"
          placeholder="set a status"
          options={statuses.map((one) => ({
            code: one.stored,
            label: one.name,
            before: <StatusGlyph {...one} />,
          }))}
          value={null}
          isDisabled={isBusy}
          onChange={(status) => act({ do: "status", status })}
        />
      ) : null}
      {writes ? (
        <>
          <Picker
            inline
            label="Who takes care of the chosen entries"
            placeholder="taken care of by"
            options={careOptions(carers, null)}
            value={null}
            isDisabled={isBusy}
            onChange={(code) => act({ do: "care", care: careOf(code) })}
          />
          <Button isDisabled={isBusy} onPress={() => act({ do: "archive" })}>
            Archive
          </Button>
        </>
      ) : null}
      {writes && looked.archived ? (
        <Button isDisabled={isBusy} onPress={() => act({ do: "take_back" })}>
          Take out of the archive
        </Button>
      ) : null}
      <Export id={id} looked={looked} many="" chosen={chosen} />
      <Print id={id} numbers={numbers} many={selection.count} />
      {writes ? (
        <>
          <Button onPress={replay}>Replay…</Button>
          <Button isDisabled={isBusy} onPress={() => setDeleting(true)}>
            Delete…
          </Button>
        </>
      ) : null}
      <Button weight="word" onPress={selection.clear}>
        Choose none
      </Button>
      <DeleteSheet
        title={`Delete ${many}`}
        open={deleting}
        word={String(selection.count)}
        what="them"
        onClose={() => setDeleting(false)}
        onDelete={() => {
          setDeleting(false);
          act({ do: "delete" });
        }}
      >
        The entries and their files are gone for good, and their places are free again. Rows in
        registers stay, and so do lines of the trail. This cannot be undone.
        <First>
          Keep a copy first: <Export id={id} looked={looked} many={many} chosen={chosen} />
        </First>
      </DeleteSheet>
    </Bar>
  );
}
