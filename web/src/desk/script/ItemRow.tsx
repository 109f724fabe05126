/** One item in the script: its words, its key and kind, its options, and its stage directions. */
import type { KeyboardEvent } from "react";
import styled from "styled-components";

import { Tag } from "../../ui/Arm";
import { Inline } from "../../ui/Inline";
import { Mono, Quiet } from "../../ui/text";
import { sentence } from "../condition/words";
import {
  byKey,
  count,
  earlier,
  first,
  hasOptions,
  isQuestion,
  itemsOf,
  KINDS,
  optionsOf,
  say,
  type Doc,
  type Item,
} from "../document";
import { changeItem, moveItem, removeItem, settleKey } from "./edits";
import { Options } from "./Options";
import { changeAndFocus, fieldId, isAt, type ScriptPart } from "./part";

const Row = styled.div<{ $chosen: boolean }>`
  display: grid;
  grid-template-columns: 30px minmax(0, 1fr) 160px;
  gap: 6px;
  padding: 9px 12px 10px 0;
  border-top: 1px solid var(--line);
  border-inline-start: 4px solid ${({ $chosen }) => ($chosen ? "var(--loden)" : "transparent")};
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

const Margin = styled.p`
  font-size: 12.5px;
  color: var(--ink-2);
  border-inline-start: 2px solid var(--line-2);
  padding-inline-start: 9px;
  line-height: 1.35;
  overflow-wrap: anywhere;
  b {
    color: var(--loden);
  }
`;

/** The kind with its limits, as "Whole number, 1 to 60". */
function limits(item: Item): string {
  const range = (low: number | string | null | undefined, high: typeof low, unit: string) => {
    if (low != null && high != null) return `, ${low} to ${high}${unit}`;
    if (low != null) return `, at least ${low}${unit}`;
    return high != null ? `, at most ${high}${unit}` : "";
  };
  switch (item.kind) {
    case "short_text": {
      const like = item.pattern ? ", by a pattern" : "";
      return KINDS[item.kind] + range(item.shortest, item.longest, " characters") + like;
    }
    case "long_text":
      return KINDS[item.kind] + range(item.shortest, item.longest, " characters");
    case "number":
      return (item.decimals ? "Number" : "Whole number") + range(item.at_least, item.at_most, "");
    case "pick_many":
      return `${KINDS[item.kind]}, ${count(optionsOf(item).length, "option")}${range(item.fewest, item.most, " picks")}`;
    case "scale":
      return `Scale, ${item.low ?? 1} to ${item.high ?? 5}`;
    case "date":
    case "time":
      return KINDS[item.kind] + range(item.earliest, item.latest, "");
    case "pick_one":
      return `${KINDS[item.kind]}, ${count(optionsOf(item).length, "option")}`;
    default:
      return KINDS[item.kind];
  }
}

function direction(doc: Doc, item: Item, page: number, at: number) {
  if (item.shown_when) {
    return (
      <>
        Shown when <b>{sentence(item.shown_when, byKey(earlier(doc, page, at)))}</b>
      </>
    );
  }
  return item.kind === "carried" ? "Never shown. Comes with the link" : null;
}

interface ItemRowProps extends ScriptPart {
  item: Item;
  page: number;
  at: number;
  /** Its number among all questions, null for what is not asked. */
  question: number | null;
  onAdd: () => void;
}

export function ItemRow({ item, page, at, question, draft, spot, onSpot, onAdd }: ItemRowProps) {
  const { doc, edit } = draft;
  const chosen = isAt(spot, page, at);
  const here = { on: "page", page, item: at } as const;
  const margin = direction(doc, item, page, at);
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter") {
      event.preventDefault();
      edit((now) => settleKey(now, item));
      onAdd();
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
  return (
    <Row $chosen={chosen} onFocus={() => (chosen ? undefined : onSpot(here))}>
      <Number aria-hidden="true">{question}</Number>
      <div>
        <Words>
          <Inline
            id={fieldId("item", item.key)}
            name={question ? `Question ${question}` : KINDS[item.kind]}
            value={say(doc, item.text)}
            placeholder={item.kind === "note" ? "What it says" : "What is asked"}
            onKeyDown={press}
            onBlur={() => edit((now) => settleKey(now, item))}
            onChange={(words) =>
              edit(
                (now) =>
                  changeItem(now, here, (one) => ({
                    ...one,
                    text: { [first(doc)]: words },
                  })),
                `text ${page} ${at}`,
              )
            }
          />
          {isQuestion(item) && item.required ? <i title="required">*</i> : null}
        </Words>
        <About>
          <Mono>{item.key}</Mono>
          <Quiet>{limits(item)}</Quiet>
          {item.kind === "carried" ? <Tag $as="plain">Plain in the link</Tag> : null}
          {item.kind !== "note" && item.restricted ? <Tag $as="care">Restricted</Tag> : null}
        </About>
        {chosen && hasOptions(item) ? <Options item={item} spot={here} draft={draft} /> : null}
      </div>
      {margin ? <Margin>{margin}</Margin> : <span />}
    </Row>
  );
}
