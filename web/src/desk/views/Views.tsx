/** Views of a table that are kept under a name, for oneself or for all. */
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Toggle } from "../../ui/Toggle";
import { faultAt, otherFault, useDoing } from "../useDoing";
import type { Schema } from "../../client/client";
import type { KeptView, TableView } from "./view";

/** Where views are kept: of a register, or of the entries of a questionnaire. */
export interface KeepsViews {
  keep: (viewId: string | null, body: Schema<"ViewIn">) => Promise<KeptView>;
  remove: (viewId: string) => Promise<unknown>;
  /** What is to be read again afterwards. */
  changed: readonly (readonly unknown[])[];
  /** What the view without anything is called, such as "all rows". */
  plain: string;
  /** Whom those for all are for. */
  everybody: string;
}

interface ViewsProps {
  keeps: KeepsViews;
  views: readonly KeptView[];
  view: TableView;
  mayShare: boolean;
  onView: (view: TableView) => void;
}

const same = (one: TableView, other: TableView) => JSON.stringify(one) === JSON.stringify(other);

const PLAIN = "";

export function Views({ keeps, views, view, mayShare, onView }: ViewsProps) {
  const [keeping, setKeeping] = useState(false);
  const known = views.find((one) => same(one.view, normal(view)));
  return (
    <>
      <Picker
        inline
        label="View"
        placeholder="a view of its own"
        options={[
          { code: PLAIN, label: keeps.plain },
          ...views.map((one) => ({
            code: one.id,
            label: one.for_all ? one.name : `${one.name} (for me)`,
          })),
        ]}
        value={known?.id ?? (same(normal(view), normal({})) ? PLAIN : null)}
        onChange={(code) => onView(views.find((one) => one.id === code)?.view ?? {})}
      />
      <Button weight="word" onPress={() => setKeeping(true)}>
        Save this view
      </Button>
      <Sheet title="Save this view" open={keeping} onClose={() => setKeeping(false)}>
        <Keep
          keeps={keeps}
          views={views}
          view={view}
          mayShare={mayShare}
          onClose={() => setKeeping(false)}
        />
      </Sheet>
    </>
  );
}

/** With every member, as the server gives it back. */
function normal(view: TableView): TableView {
  return {
    search: view.search ?? "",
    filter: view.filter ?? null,
    sort: view.sort ?? [],
    group: view.group ?? null,
    columns: view.columns ?? [],
    frozen: view.frozen ?? 0,
  };
}

function Keep({
  keeps,
  views,
  view,
  mayShare,
  onClose,
}: Omit<ViewsProps, "onView"> & { onClose: () => void }) {
  const [name, setName] = useState("");
  const [forAll, setForAll] = useState(false);
  const over = views.find((one) => one.name === name.trim() && one.for_all === forAll);
  const keeping = useDoing(
    () => keeps.keep(over?.id ?? null, { name, for_all: forAll, view: normal(view) }),
    keeps.changed,
    onClose,
  );
  const removing = useDoing((viewId: string) => keeps.remove(viewId), keeps.changed);
  const failed = otherFault(keeping.error ?? removing.error, ["name"]);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) keeping.mutate();
      }}
    >
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Field
        label="Name"
        value={name}
        onChange={setName}
        error={faultAt(keeping.error, "name")}
        help={
          over
            ? "There is one by this name: it is replaced."
            : "Its filter, order and columns are kept."
        }
        autoFocus
        isRequired
      />
      {mayShare ? (
        <Toggle isSelected={forAll} onChange={setForAll}>
          {keeps.everybody}
        </Toggle>
      ) : null}
      {views.length ? (
        <ul>
          {views.map((one) => (
            <li key={one.id}>
              {one.name}, {one.for_all ? "for all" : "for me"}{" "}
              {!one.for_all || mayShare ? (
                <Button
                  weight="word"
                  aria-label={`Delete the view ${one.name}`}
                  onPress={() => removing.mutate(one.id)}
                >
                  Delete
                </Button>
              ) : null}
            </li>
          ))}
        </ul>
      ) : null}
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" type="submit" isDisabled={!name.trim() || keeping.isPending}>
          Save view
        </Button>
      </Actions>
    </form>
  );
}
