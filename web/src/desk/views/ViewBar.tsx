/** What of a table is looked at: searched, filtered, grouped, with which columns. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { fieldBox } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { sentence } from "../condition/words";
import type { Subject } from "../subjects";
import { FilterPart } from "./FilterPart";
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

const Below = styled.div`
  padding: 4px 20px 12px;
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

export function ViewBar(props: ViewBarProps) {
  const { view, columns, subjects, isFiltering, onFiltering, onView, things, sought } = props;
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
        <Below>
          <FilterPart
            things={things}
            view={view}
            subjects={subjects}
            onView={onView}
            onClose={() => onFiltering(false)}
          />
        </Below>
      ) : null}
    </>
  );
}
