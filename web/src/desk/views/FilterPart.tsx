/** The condition that things are shown by, written where it is asked for. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { ConditionEditor } from "../condition/ConditionEditor";
import type { Subject } from "../subjects";
import type { TableView } from "./view";

const Filter = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  justify-items: start;
`;

interface FilterPartProps {
  /** What one of the things is called: rows, entries. */
  things: string;
  view: TableView;
  subjects: readonly Subject[];
  onView: (view: TableView) => void;
  onClose: () => void;
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

export function FilterPart({ things, view, subjects, onView, onClose }: FilterPartProps) {
  const { draft, setDraft, apply, isChanged } = useFilter(view, onView);
  return (
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
            onClose();
          }}
        >
          Show these {things}
        </Button>{" "}
        <Button
          onPress={() => {
            setDraft(view.filter ?? null);
            onClose();
          }}
        >
          Cancel
        </Button>
      </span>
    </Filter>
  );
}
