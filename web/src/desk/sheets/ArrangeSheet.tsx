/** Arrange: the whole script as one list; several items selected, dragged, moved to other pages. */
import { GridList, GridListItem } from "react-aria-components/GridList";
import { useDragAndDrop } from "react-aria-components/useDragAndDrop";
import { Button as Handle } from "react-aria-components/Button";
import { CheckboxButton, CheckboxField } from "react-aria-components/Checkbox";
import { useState } from "react";
import type { Selection } from "react-aria-components/GridList";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Actions, Sheet } from "../../ui/Sheet";
import { Mono, Quiet } from "../../ui/text";
import { count, itemsOf, KIND_NAMES, say, type Doc } from "../document";
import { moveTo, pagesTo, type Before } from "../draft/arrange";

const Rows = styled(GridList)`
  max-height: 58vh;
  overflow: auto;
  border-block: 1px solid var(--line);
  outline: none;
  .react-aria-DropIndicator[data-drop-target] {
    outline: 2px solid var(--accent);
  }
`;

const Row = styled(GridListItem)<{ $page: boolean }>`
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 4px 8px;
  min-height: 34px;
  outline: none;
  overflow-wrap: anywhere;
  ${({ $page }) => ($page ? "font: 700 16px var(--head); padding-block-start: 10px;" : "")}
  &[data-selected] {
    background: var(--accent-soft);
  }
  &[data-focus-visible],
  &[data-drop-target] {
    outline: 2.5px solid var(--flax);
    outline-offset: -2px;
  }
  &[data-dragging] {
    opacity: 0.5;
  }
`;

const Grip = styled(Handle)`
  border: 0;
  background: none;
  color: var(--ink-3);
  cursor: grab;
  min-width: 26px;
  min-height: 26px;
  border-radius: 3px;
  &::before {
    content: "";
    display: inline-block;
    width: 12px;
    height: 10px;
    border-block: 2px solid currentColor;
  }
  &[data-focus-visible] {
    outline: 2.5px solid var(--flax);
  }
`;

const Box = styled(CheckboxButton)`
  display: block;
  width: 18px;
  height: 18px;
  flex: none;
  border: 2px solid var(--ink-2);
  border-radius: 3px;
  cursor: pointer;
  &[data-selected] {
    background: var(--accent);
    border-color: var(--accent);
    box-shadow: inset 0 0 0 3px var(--paper);
  }
`;

interface Line {
  id: string;
  page: boolean;
  words: string;
  kind: string;
}

/** The pages, each followed by its items. */
function linesOf(doc: Doc): Line[] {
  return doc.pages.flatMap((page, number) => [
    {
      id: `page ${page.key}`,
      page: true,
      words: `${number + 1} ${say(doc, page.title)}`,
      kind: "",
    },
    ...itemsOf(page).map(({ key, text, kind }) => ({
      id: `item ${key}`,
      page: false,
      words: say(doc, text) || key,
      kind: KIND_NAMES[kind],
    })),
  ]);
}

const keyOf = (id: string | number) => String(id).slice(5);

/** Where what is dropped at `id` shall stand. */
function placeAt(doc: Doc, id: string, after: boolean): Before {
  const lines = linesOf(doc);
  const at = lines.findIndex((line) => line.id === id) + (after ? 1 : 0);
  const above = lines.slice(0, at).findLast(({ page }) => page) ?? lines[0];
  const below = lines[at];
  return {
    page: keyOf(above?.id ?? ""),
    item: below && !below.page && at > 0 ? keyOf(below.id) : null,
  };
}

/** The page before which pages dropped at `id` shall stand, null for the end. */
function pageAt(doc: Doc, id: string, after: boolean): string | null {
  const lines = linesOf(doc);
  const at = lines.findIndex((line) => line.id === id) + (after ? 1 : 0);
  const next = lines.slice(at).find(({ page }) => page);
  return next ? keyOf(next.id) : null;
}

interface ArrangeSheetProps {
  doc: Doc;
  onChange: (change: (doc: Doc) => Doc) => void;
  onClose: () => void;
}

export function ArrangeSheet({ doc, onChange, onClose }: ArrangeSheetProps) {
  const lines = linesOf(doc);
  const items = lines.filter(({ page }) => !page);
  const [selected, setSelected] = useState<Selection>(new Set());
  const [target, setTarget] = useState(doc.pages[0]?.key ?? "");
  const chosen = new Set(
    (selected === "all" ? items.map(({ id }) => id) : [...selected]).map(keyOf),
  );
  const move = (keys: ReadonlySet<string>, before: Before) =>
    onChange((now) => moveTo(now, keys, before));
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (ids) => [...ids].map((id) => ({ "text/plain": keyOf(id) })),
    onReorder: ({ keys, target: { key, dropPosition } }) => {
      const [id, after] = [String(key), dropPosition !== "before"];
      const dragged = [...keys].map(String);
      const pages = dragged.filter((one) => one.startsWith("page "));
      if (!pages.length) move(new Set(dragged.map(keyOf)), placeAt(doc, id, after));
      else onChange((now) => pagesTo(now, new Set(pages.map(keyOf)), pageAt(now, id, after)));
    },
  });
  return (
    <Sheet title="Arrange" open onClose={onClose} width="wide">
      <Quiet>
        Drag by the handle, or press Enter on it and choose the place with the arrow keys. Space
        selects; what is selected moves together.
      </Quiet>
      <Rows
        aria-label="Pages and items"
        items={lines}
        selectionMode="multiple"
        selectedKeys={selected}
        onSelectionChange={setSelected}
        disabledKeys={lines.filter(({ page }) => page).map(({ id }) => id)}
        disabledBehavior="selection"
        dragAndDropHooks={dragAndDropHooks}
      >
        {(line) => {
          const { id, page, words, kind } = line as Line;
          return (
            <Row id={id} textValue={words} $page={page}>
              <Grip slot="drag" />
              {page ? null : (
                <CheckboxField slot="selection">
                  <Box />
                </CheckboxField>
              )}
              <span>{words}</span>
              {page ? null : <Mono style={{ whiteSpace: "nowrap" }}>{kind}</Mono>}
            </Row>
          );
        }}
      </Rows>
      <Actions>
        <span role="status" style={{ marginInlineEnd: "auto" }}>
          {chosen.size ? `${count(chosen.size, "item")} selected` : "Nothing selected"}
        </span>
        <Choose
          name="To which page"
          value={target}
          options={doc.pages.map(({ key, title }, number) => ({
            code: key,
            label: `${number + 1} ${say(doc, title)}`,
          }))}
          onChange={setTarget}
        />
        <Button
          isDisabled={!chosen.size}
          onPress={() => {
            move(chosen, { page: target, item: null });
            setSelected(new Set());
          }}
        >
          Move to the end of it
        </Button>
        <Button onPress={onClose}>Close</Button>
      </Actions>
    </Sheet>
  );
}
