/** What of a table is looked at: searched, filtered, grouped, with which columns. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { fieldBox } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { ConditionEditor } from "../condition/ConditionEditor";
import { sentence } from "../condition/words";
import type { Subject } from "../subjects";
import { laidOut, withAway } from "./layout";
import type { Column, TableView } from "./view";

const Bar = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  padding: 0 20px 10px;
`;

const Sought = styled.input`
  ${fieldBox}
  width: 190px;
  min-height: 32px;
`;

const Filter = styled.div`
  padding: 4px 20px 12px;
  display: grid;
  gap: 8px;
  justify-items: start;
`;

interface ViewBarProps {
  /** What one of the things in the table is called: rows, entries. */
  things: string;
  /** What is searched. */
  sought: string;
  view: TableView;
  columns: readonly Column[];
  subjects: readonly Subject[];
  isFiltering: boolean;
  onFiltering: (open: boolean) => void;
  onView: (view: TableView) => void;
}

/** A condition is asked for once it says something; before that it stands here alone. */
function useFilter(view: TableView, onView: (view: TableView) => void) {
  const [draft, setDraft] = useState(view.filter ?? null);
  const [from, setFrom] = useState(view.filter);
  if (from !== view.filter) {
    setFrom(view.filter);
    setDraft(view.filter ?? null);
  }
  const apply = () => onView({ ...view, filter: draft });
  return {
    draft,
    setDraft,
    apply,
    isChanged: JSON.stringify(draft) !== JSON.stringify(view.filter ?? null),
  };
}

export function ViewBar(props: ViewBarProps) {
  const { view, columns, subjects, isFiltering, onFiltering, onView, things, sought } = props;
  const { draft, setDraft, apply, isChanged } = useFilter(view, onView);
  const away = laidOut(columns, view).filter((one) => one.away);
  const label = (key: string) => columns.find((one) => one.key === key)?.label ?? key;
  return (
    <>
      <Bar>
        <Sought
          type="search"
          aria-label={sought}
          placeholder={sought}
          defaultValue={view.search ?? ""}
          key={view.search ?? ""}
          onKeyDown={(event) => {
            if (event.key === "Enter") onView({ ...view, search: event.currentTarget.value });
          }}
          onBlur={(event) => {
            if (event.target.value !== (view.search ?? ""))
              onView({ ...view, search: event.target.value });
          }}
        />
        <Button aria-expanded={isFiltering} onPress={() => onFiltering(!isFiltering)}>
          {view.filter ? sentence(view.filter, subjects) : "Add a filter"}
        </Button>
        {view.filter ? (
          <Button weight="word" onPress={() => onView({ ...view, filter: null })}>
            Clear filter
          </Button>
        ) : null}
        <Picker
          inline
          label="Grouped by"
          options={[
            { code: "", label: "not grouped" },
            ...columns
              .filter(({ shut }) => !shut)
              .map((one) => ({ code: one.key, label: `grouped by ${one.label}` })),
          ]}
          value={view.group ?? ""}
          onChange={(group) => onView({ ...view, group: group || null })}
        />
        {away.length ? (
          <Picker
            inline
            label="Columns put away"
            placeholder={`${away.length} put away`}
            options={away.map(({ column }) => ({ code: column, label: `Show ${label(column)}` }))}
            value={null}
            onChange={(key) => onView(withAway(columns, view, key, false))}
          />
        ) : null}
      </Bar>
      {isFiltering ? (
        <Filter role="group" aria-label="Filter">
          <ConditionEditor
            condition={draft}
            subjects={subjects}
            onChange={setDraft}
            none={`All ${things} are shown.`}
          />
          <span>
            <Button
              weight="main"
              isDisabled={!isChanged}
              onPress={() => {
                apply();
                onFiltering(false);
              }}
            >
              Show these {things}
            </Button>{" "}
            <Button
              onPress={() => {
                setDraft(view.filter ?? null);
                onFiltering(false);
              }}
            >
              Cancel
            </Button>
          </span>
        </Filter>
      ) : null}
    </>
  );
}
