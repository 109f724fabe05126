/** The bench: everything about what is selected, and what is left to do before publishing. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import type { Item } from "../document";
import { changeItem, moveItem, removeFinish, removeItem } from "./edits";
import { fieldId, type ScriptPart } from "./part";
import { ItemBench } from "./ItemBench";
import { PageBench } from "./PageBench";
import { Section } from "./Section";

const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  min-width: 0;
  position: sticky;
  top: 0;
  align-self: start;
  height: 100vh;
  overflow: auto;
  @media (max-width: 1080px) {
    position: static;
    height: auto;
  }
`;

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
  if (parts[2] === "items") return fieldId("item", parts[3] ?? "");
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

function Chosen({ draft, spot, onSpot }: ScriptPart) {
  const { doc, edit } = draft;
  if (spot.on === "finish") {
    const several = doc.finishes.length > 1;
    return (
      <Section title="Finish">
        <p>
          {spot.finish === 0
            ? "Everybody ends here unless a skip rule leads elsewhere."
            : "A skip rule of a page leads here."}
        </p>
        {several ? (
          <Button
            onPress={() => {
              edit((now) => removeFinish(now, spot.finish));
              onSpot({ on: "finish", finish: 0 });
            }}
          >
            Delete this finish
          </Button>
        ) : null}
      </Section>
    );
  }
  const page = doc.pages[spot.page];
  if (!page) return null;
  const item = spot.item === null ? undefined : page.items?.[spot.item];
  if (!item || spot.item === null) {
    return <PageBench page={page} number={spot.page} draft={draft} onSpot={onSpot} />;
  }
  const at = spot.item;
  const set = (change: (item: Item) => Item, step = "") =>
    edit((now) => changeItem(now, spot, change), step);
  const move = (by: -1 | 1) => {
    const moved = moveItem(doc, spot.page, at, by);
    if (!moved) return;
    edit(moved[0]);
    onSpot(moved[1]);
  };
  return (
    <ItemBench
      key={item.key}
      item={item}
      page={spot.page}
      at={at}
      draft={draft}
      onChange={set}
      onMove={move}
      onDelete={() => {
        edit((now) => removeItem(now, spot.page, at));
        onSpot({ on: "page", page: spot.page, item: null });
      }}
    />
  );
}

export function Bench(part: ScriptPart) {
  return (
    <Side aria-label="Bench">
      <Chosen {...part} />
      <ToDo draft={part.draft} />
    </Side>
  );
}
