/** One item in the script: its words, its key and kind, its options, and its stage directions. */
import { memo, type KeyboardEvent } from "react";
import styled from "styled-components";

import { Tag } from "../../ui/Arm";
import { Inline, Paragraphs } from "../../ui/Inline";
import { Mono, Quiet } from "../../ui/text";
import { hasOptions, isQuestion, itemsOf, KIND_NAMES, say, told, type Item } from "../document";
import { addItem, changeItem, duplicate, moveItem, removeItem } from "../draft/edits";
import { Here } from "../draft/AlsoHere";
import { Direction } from "./Direction";
import { GridRows } from "./GridRows";
import { Inside } from "./Inside";
import { limits } from "../reading/inWords";
import { Options } from "./Options";
import { isUntouched, ProposedKind } from "./ProposedKind";
import { changeAndFocus, fieldId } from "../draft/fields";
import { isAt, WORDING, type ScriptPart } from "../draft/part";
import { settleKey } from "../draft/rename";
import { RestrictedTag } from "../kinds/Restricted";

/** Rows out of view are not laid out; the one that is worked in always is, or typing fails. */
const Row = styled.div<{ $chosen: boolean }>`
  content-visibility: ${({ $chosen }) => ($chosen ? "visible" : "auto")};
  contain-intrinsic-block-size: auto 62px;
  display: grid;
  grid-template-columns: 30px minmax(0, 1fr) 160px;
  gap: 6px;
  padding: 9px 12px 10px 0;
  border-top: 1px solid var(--line);
  border-inline-start: 4px solid ${({ $chosen }) => ($chosen ? "var(--accent)" : "transparent")};
  background: ${({ $chosen }) => ($chosen ? "var(--paper)" : "none")};
  margin-inline: -12px;
  @media (max-width: 620px) {
    grid-template-columns: 30px minmax(0, 1fr);
    > :last-child:not(:nth-child(2)) {
      grid-column: 2;
    }
  }
`;

const Number = styled.span`
  font: 600 15px var(--head);
  color: var(--ink-3);
  text-align: end;
`;

const Words = styled.div`
  display: flex;
  gap: 5px;
  font-size: 15.5px;
  i {
    color: var(--rust);
    font: 700 15.5px var(--body);
  }
`;

const About = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 3px 10px;
  align-items: center;
  margin-top: 2px;
`;

/** What stands in the empty field of what is not asked. */
const PLACEHOLDERS: Partial<Record<Item["kind"], string>> = {
  note: "What it says, in CommonMark; Shift Enter for a new line",
  picture: "What the picture shows, for those who cannot see it",
  video: "The title of the video",
  computed: "What the value is",
  carried: "What the link brings",
};

/** Whether other questions can stand inside. */
const holds = (item: Item) => item.kind === "roster" || item.kind === "grid";

interface ItemRowProps extends ScriptPart {
  item: Item;
  page: number;
  at: number;
  /** Its number among all questions, null for what is not asked. */
  question: number | null;
  onAdd: () => void;
}

/** Whether a row can stay as it is drawn: nothing of it changed, and nobody works in it.
 *
 * What it does when pressed may be old until it is drawn again, which the focus brings about. */
function stays(before: ItemRowProps, after: ItemRowProps): boolean {
  const works = [before, after].some(({ spot, page, at }) => isAt(spot, page, at));
  return (
    !works &&
    before.item === after.item &&
    before.page === after.page &&
    before.at === after.at &&
    before.question === after.question
  );
}

export const ItemRow = memo(WholeRow, stays);

function WholeRow({ item, page, at, question, draft, spot, onSpot, onAdd }: ItemRowProps) {
  const { doc, edit } = draft;
  const chosen = isAt(spot, page, at);
  const here = { on: "page", page, item: at } as const;
  const itself = chosen && !("inner" in spot && spot.inner !== undefined);
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter" && !(event.shiftKey && item.kind === "note")) {
      event.preventDefault();
      edit((now) => settleKey(now, item.key));
      onAdd();
    } else if ((event.ctrlKey || event.metaKey) && event.key === "d") {
      event.preventDefault();
      const made = duplicate(doc, item);
      changeAndFocus(
        () => {
          edit((now) => addItem(now, page, at + 1, made));
          onSpot({ on: "page", page, item: at + 1 });
        },
        fieldId("item", made.key),
      );
    } else if ((event.ctrlKey || event.metaKey) && event.key === "/") {
      event.preventDefault();
      document.querySelector<HTMLElement>("[data-kinds] button")?.click();
    } else if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      event.preventDefault();
      const moved = moveItem(doc, page, at, event.key === "ArrowUp" ? -1 : 1);
      if (!moved) return;
      changeAndFocus(
        () => {
          edit(moved[0]);
          onSpot(moved[1]);
        },
        fieldId("item", item.key),
      );
    } else if (event.key === "Backspace" && !say(doc, item.text)) {
      event.preventDefault();
      const whole = doc.pages[page];
      const before = whole && itemsOf(whole)[at - 1];
      const field = before ? fieldId("item", before.key) : fieldId("page", whole?.key ?? "");
      changeAndFocus(() => {
        edit((now) => removeItem(now, page, at));
        onSpot({ on: "page", page, item: before ? at - 1 : null });
      }, field);
    }
  };
  const Wording = item.kind === "note" ? Paragraphs : Inline;
  return (
    <Row $chosen={chosen} onFocus={() => (itself ? undefined : onSpot(here))}>
      <Number aria-hidden="true">{question}</Number>
      <div>
        <Words>
          <Wording
            id={fieldId("item", item.key)}
            name={question ? `Question ${question}` : KIND_NAMES[item.kind]}
            value={say(doc, item.text)}
            placeholder={PLACEHOLDERS[item.kind] ?? "What is asked"}
            onKeyDown={press}
            onBlur={() => edit((now) => settleKey(now, item.key))}
            onChange={(words) =>
              edit(
                (now) =>
                  changeItem(now, here, (one) => ({
                    ...one,
                    text: told(doc, one.text, words),
                  })),
                `${WORDING}${item.key}`,
              )
            }
          />
          {isQuestion(item) && item.required ? <i title="required">*</i> : null}
        </Words>
        <About>
          <Mono>{item.key}</Mono>
          <Quiet>{limits(doc, item)}</Quiet>
          {item.kind === "carried" && item.sealed ? <Tag $as="sealed">Sealed</Tag> : null}
          <RestrictedTag item={item} draft={draft} />
          <Here at={item.key} />
          {chosen && isUntouched(item) ? (
            <ProposedKind
              item={item}
              doc={doc}
              onTake={(guessed) =>
                changeAndFocus(
                  () => edit((now) => changeItem(now, here, () => guessed)),
                  fieldId("item", item.key),
                )
              }
            />
          ) : null}
        </About>
        {chosen && hasOptions(item) ? <Options item={item} spot={here} draft={draft} /> : null}
        {chosen && item.kind === "grid" ? (
          <GridRows
            grid={item}
            doc={doc}
            onRows={(rows, step = "") =>
              edit((now) => changeItem(now, here, (one) => ({ ...one, rows }) as Item), step)
            }
          />
        ) : null}
        {holds(item) ? (
          <Inside item={item} here={here} draft={draft} spot={spot} onSpot={onSpot} />
        ) : null}
      </div>
      <Direction item={item} />
    </Row>
  );
}
