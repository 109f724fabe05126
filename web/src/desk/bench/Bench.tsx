/** The bench: everything about what is selected, and what is left to do before publishing. */
import { useQuery } from "@tanstack/react-query";
import { memo, useState, type ReactNode } from "react";
import styled from "styled-components";

import { dispatch } from "../data";
import { inside, type Doc, type Item } from "../document";
import {
  addInside,
  addItem,
  changeItem,
  duplicate,
  moveInside,
  moveItem,
  removeInside,
  removeItem,
  removePage,
  type Spot,
} from "../draft/edits";
import { fieldId } from "../draft/fields";
import type { ScriptPart } from "../draft/part";
import { Branching } from "../proof/Branching";
import { FinishBench } from "./FinishBench";
import { FrontBench } from "./FrontBench";
import { ItemBench } from "./ItemBench";
import { PageBench } from "./PageBench";
import { keysOn, keysWithin, rulesUsing, usedBy } from "../draft/references";
import { stableKeyOf } from "../draft/stableKeys";
import { Section, Side } from "../shell/Section";
import { DeleteSheet, type Deleting } from "./Uses";

const Faults = styled.ul`
  display: grid;
  gap: 4px;
  button {
    border: 0;
    border-inline-start: 3px solid var(--ochre);
    background: var(--ochre-soft);
    padding: 5px 10px;
    width: 100%;
    text-align: start;
    cursor: pointer;
    overflow-wrap: anywhere;
  }
`;

/** The field that a fault is about, from the path of keys that it carries. */
function placeOf(at: string): string {
  const parts = at.split("/");
  if (parts[2] === "items") return fieldId("item", parts[5] ?? parts[3] ?? "");
  if (parts[0] === "items") return fieldId("item", parts[1] ?? "");
  return fieldId(parts[0] === "finishes" ? "finish" : "page", parts[1] ?? "");
}

function ToDo({ draft }: Pick<ScriptPart, "draft">) {
  const { faults } = draft;
  return (
    <Section title={faults.length ? `Before you publish: ${faults.length}` : "Before you publish"}>
      {faults.length ? (
        <Faults>
          {faults.map((fault, at) => (
            <li key={at}>
              <button
                type="button"
                onClick={() => document.getElementById(placeOf(fault.at))?.focus()}
              >
                {fault.message}
              </button>
            </li>
          ))}
        </Faults>
      ) : (
        <p>Nothing is missing. It can be published.</p>
      )}
    </Section>
  );
}

function Chosen({ draft, spot, onSpot, onDeleting }: BenchProps) {
  const { doc, edit } = draft;
  if (spot.on === "front") return <FrontBench draft={draft} />;
  if (spot.on === "finish") {
    return <FinishBench draft={draft} number={spot.finish} onSpot={onSpot} />;
  }
  const page = doc.pages[spot.page];
  if (!page) return null;
  const item = spot.item === null ? undefined : page.items?.[spot.item];
  if (!item || spot.item === null) {
    return (
      <PageBench
        page={page}
        number={spot.page}
        draft={draft}
        onSpot={onSpot}
        onDelete={() =>
          onDeleting({
            what: `page ${spot.page + 1}`,
            keys: keysOn(page),
            from: (now) => removePage(now, spot.page),
            then: { on: "page", page: Math.max(spot.page - 1, 0), item: null },
          })
        }
      />
    );
  }
  const { item: at, inner } = spot;
  const set = (change: (item: Item) => Item, step = "") =>
    edit((now) => changeItem(now, spot, change), step);
  const within = inner === undefined ? undefined : inside(item)[inner];
  const isWithin = within !== undefined && inner !== undefined;
  const one = within ?? item;
  return (
    <ItemBench
      key={stableKeyOf(draft.stableKeys, one.key)}
      item={one}
      page={spot.page}
      at={at}
      inner={isWithin ? inner : undefined}
      draft={draft}
      onChange={set}
      onMove={(by) => {
        const moved = isWithin
          ? moveInside(doc, spot.page, at, inner, by)
          : moveItem(doc, spot.page, at, by);
        if (!moved) return;
        edit(moved[0]);
        onSpot(moved[1]);
      }}
      onDuplicate={() => {
        const made = duplicate(doc, one);
        edit((now) =>
          isWithin
            ? addInside(now, spot.page, at, inner + 1, made)
            : addItem(now, spot.page, at + 1, made),
        );
        onSpot(isWithin ? { ...spot, inner: inner + 1 } : { ...spot, item: at + 1 });
      }}
      onDelete={() =>
        onDeleting({
          what: one.key,
          keys: keysWithin(one),
          from: (now) =>
            isWithin ? removeInside(now, spot.page, at, inner) : removeItem(now, spot.page, at),
          then: { on: "page", page: spot.page, item: isWithin ? at : null },
        })
      }
    />
  );
}

/** Something to delete, and what is selected afterwards. */
type Leaving = Deleting & { then: Spot };

interface BenchProps extends ScriptPart {
  onDeleting: (deleting: Leaving) => void;
}

interface WholeProps extends ScriptPart {
  /** What stands above all of it. */
  lead?: ReactNode;
}

export const Bench = memo(function Bench({ lead, ...part }: WholeProps) {
  const { draft, onSpot } = part;
  const [asked, setAsked] = useState<Leaving | null>(null);
  const rules = useQuery(dispatch(draft.id)).data?.dispatch;
  const remove = (change: (doc: Doc) => Doc, then: Spot) => {
    draft.edit(change);
    onSpot(then);
    setAsked(null);
  };
  return (
    <Side aria-label="Bench" data-region="bench">
      {lead}
      <Chosen
        {...part}
        onDeleting={(deleting) => {
          const used = usedBy(draft.doc, deleting.keys).length > 0;
          const ruled = rules ? rulesUsing(rules, deleting.keys).length > 0 : false;
          if (used || ruled) setAsked(deleting);
          else remove(deleting.from, deleting.then);
        }}
      />
      <ToDo draft={draft} />
      {lead ? null : <Branching draft={draft} onSpot={onSpot} />}
      {asked ? (
        <DeleteSheet
          id={draft.id}
          doc={draft.doc}
          deleting={asked}
          onDelete={(change) => remove(change, asked.then)}
          onClose={() => setAsked(null)}
        />
      ) : null}
    </Side>
  );
});
