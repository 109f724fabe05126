/** What is inside of a roster, or the columns of a grid, as rows of the script. */
import type { KeyboardEvent } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Inline } from "../../ui/Inline";
import { Mono, Quiet } from "../../ui/text";
import { hasOptions, inside, isValued, KIND_NAMES, say, told, type Item } from "../document";
import {
  addInside,
  changeItem,
  moveInside,
  newItem,
  removeInside,
  type Spot,
} from "../draft/edits";
import { Here } from "../draft/AlsoHere";
import { Checks } from "../reading/Checks";
import { limits } from "../reading/inWords";
import { Options } from "./Options";
import { changeAndFocus, fieldId } from "../draft/fields";
import type { ScriptPart } from "../draft/part";
import { settleKey } from "../draft/rename";
import { stableKeyOf } from "../draft/stableKeys";

const List = styled.ol`
  margin-top: 8px;
  border-inline-start: 2px solid var(--accent-mid);
  > li {
    padding: 5px 0 6px 10px;
    border-bottom: 1px dotted var(--line-2);
  }
  > li[data-chosen] {
    background: var(--accent-soft);
  }
`;

const Words = styled.div`
  display: flex;
  gap: 5px;
  i {
    color: var(--rust);
    font-weight: 700;
  }
`;

const About = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: baseline;
`;

type PageSpot = Extract<Spot, { on: "page" }>;

interface InsideProps extends ScriptPart {
  item: Item;
  here: PageSpot & { item: number };
}

export function Inside({ item, here, draft, spot, onSpot }: InsideProps) {
  const { doc, edit } = draft;
  const noun = item.kind === "grid" ? "column" : "question";
  const items = inside(item);
  const { page, item: outer } = here;
  const chosen = spot.on === "page" && spot.page === page && spot.item === outer ? spot.inner : -1;
  const at = (inner: number): Spot => ({ ...here, inner });
  const add = (place: number) => {
    const made = newItem(doc, item.kind === "grid" ? "number" : "short_text");
    changeAndFocus(
      () => {
        edit((now) => addInside(now, page, outer, place, made));
        onSpot(at(place));
      },
      fieldId("item", made.key),
    );
  };
  const press = (event: KeyboardEvent, one: Item, inner: number) => {
    if (event.key === "Enter") {
      event.preventDefault();
      edit((now) => settleKey(now, one.key));
      add(inner + 1);
    } else if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      event.preventDefault();
      const moved = moveInside(doc, page, outer, inner, event.key === "ArrowUp" ? -1 : 1);
      if (!moved) return;
      changeAndFocus(
        () => {
          edit(moved[0]);
          onSpot(moved[1]);
        },
        fieldId("item", one.key),
      );
    } else if (event.key === "Backspace" && !say(doc, one.text)) {
      event.preventDefault();
      const before = items[inner - 1];
      changeAndFocus(
        () => {
          edit((now) => removeInside(now, page, outer, inner));
          onSpot(before ? at(inner - 1) : here);
        },
        fieldId("item", before?.key ?? item.key),
      );
    }
  };
  return (
    <>
      <List aria-label={item.kind === "grid" ? "Columns" : "Asked for each entry"}>
        {items.map((one, inner) => (
          <li
            key={stableKeyOf(draft.stableKeys, one.key)}
            data-chosen={chosen === inner || undefined}
            onFocus={(event) => {
              event.stopPropagation();
              if (chosen !== inner) onSpot(at(inner));
            }}
          >
            <Words>
              <Inline
                id={fieldId("item", one.key)}
                name={`${isValued(one) ? noun : KIND_NAMES[one.kind]} ${inner + 1}`}
                value={say(doc, one.text)}
                placeholder={noun === "column" ? "What the column asks" : "What is asked"}
                onKeyDown={(event) => press(event, one, inner)}
                onBlur={() => edit((now) => settleKey(now, one.key))}
                onChange={(words) =>
                  edit(
                    (now) =>
                      changeItem(now, at(inner), (same) => ({
                        ...same,
                        text: told(now, same.text, words),
                      })),
                    `text ${page} ${outer} ${inner}`,
                  )
                }
              />
              {"required" in one && one.required ? <i title="required">*</i> : null}
            </Words>
            <About>
              <Mono>{one.key}</Mono>
              <Quiet>{limits(draft.doc, one)}</Quiet>
              <Here at={one.key} />
            </About>
            {chosen === inner && hasOptions(one) ? (
              <Options item={one} spot={at(inner)} draft={draft} />
            ) : null}
          </li>
        ))}
      </List>
      {item.kind === "roster" && item.checks?.length ? (
        <Checks doc={draft.doc} checks={item.checks} />
      ) : null}
      <Button weight="word" onPress={() => add(items.length)}>
        Add a {noun}
      </Button>
    </>
  );
}
