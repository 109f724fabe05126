/** A page of a questionnaire made for reading: its questions, what they take, where it leads. */
import type { ReactNode } from "react";
import styled from "styled-components";

import { Mono, Quiet } from "../../ui/text";
import { sentence } from "../condition/words";
import {
  inside,
  isQuestion,
  itemsOf,
  optionsOf,
  say,
  type Condition,
  type Doc,
  type Item,
  type Page,
} from "../document";
import { subjectsOf } from "../subjects";
import { fieldId } from "../draft/fields";
import { Checks } from "./Checks";
import { limits } from "./inWords";
import { SkipRules } from "./SkipRules";

const Whole = styled.section`
  margin-bottom: 26px;
  max-width: 780px;
  overflow-wrap: anywhere;
  > h2,
  > h3 {
    font: 700 20px var(--head);
    padding-bottom: 6px;
    &:focus-visible {
      outline-offset: 4px;
    }
  }
`;

const Rows = styled.ol`
  list-style: none;
  padding: 0;
  > li {
    border-top: 1px solid var(--line);
    padding: 9px 0 10px;
    display: grid;
    grid-template-columns: 34px minmax(0, 1fr);
  }
  > li > b {
    font: 600 15px var(--head);
    color: var(--ink-3);
  }
  p {
    white-space: pre-wrap;
  }
  i {
    color: var(--rust);
    font-style: normal;
    font-weight: 700;
  }
  ul {
    padding-inline-start: 18px;
    list-style: disc;
  }
`;

const Notes = styled.ul`
  font-size: 13.5px;
  color: var(--ink-2);
  && {
    list-style: none;
    padding: 0;
  }
  b {
    color: var(--accent);
  }
`;

function Says({ lead, when, doc }: { lead: string; when: Condition; doc: Doc }) {
  return (
    <li>
      {lead} <b>{sentence(when, subjectsOf(doc, when))}</b>
    </li>
  );
}

function Listed({ item, doc }: { item: Item; doc: Doc }) {
  const listed = item.kind === "grid" ? (item.rows ?? []) : optionsOf(item);
  if (!listed.length) return null;
  return (
    <ul>
      {listed.map((one) => (
        <li key={one.code}>
          {say(doc, one.label)} <Mono>{one.code}</Mono>
          {one.shown_when ? (
            <Notes>
              <Says lead="Shown when" when={one.shown_when} doc={doc} />
            </Notes>
          ) : null}
        </li>
      ))}
    </ul>
  );
}

function ItemToRead({ item, doc, number }: { item: Item; doc: Doc; number: ReactNode }) {
  const question = isQuestion(item);
  return (
    <li>
      <b>{number}</b>
      <div>
        <p>
          {say(doc, item.text) || "Untitled"}
          {question && item.required ? <i title="required"> *</i> : null}
        </p>
        <Mono>{item.key}</Mono> <Quiet>{limits(doc, item)}</Quiet>
        {question && say(doc, item.help) ? <p>{say(doc, item.help)}</p> : null}
        <Listed item={item} doc={doc} />
        <Notes>
          {item.short_name ? <li>Staff read: {item.short_name}</li> : null}
          {item.shown_when ? <Says lead="Shown when" when={item.shown_when} doc={doc} /> : null}
          {question && item.required_when ? (
            <Says lead="Required when" when={item.required_when} doc={doc} />
          ) : null}
          {question && item.restricted ? <li>Only people with clearance see the answers</li> : null}
        </Notes>
        {inside(item).length ? (
          <Rows>
            {inside(item).map((one) => (
              <ItemToRead key={one.key} item={one} doc={doc} number="" />
            ))}
          </Rows>
        ) : null}
        {item.kind === "roster" && item.checks?.length ? (
          <Checks doc={doc} checks={item.checks} />
        ) : null}
      </div>
    </li>
  );
}

interface PageToReadProps {
  doc: Doc;
  page: Page;
  number: number;
  /** How many questions stand on the pages before. */
  asked: number;
  level?: "h2" | "h3";
}

export function PageToRead({ doc, page, number, asked, level: Heading = "h2" }: PageToReadProps) {
  const items = itemsOf(page);
  const numbered = (at: number) => asked + items.slice(0, at + 1).filter(isQuestion).length;
  return (
    <Whole aria-label={`Page ${number + 1}`}>
      <Heading id={fieldId("page", page.key)} tabIndex={-1}>
        {number + 1} {say(doc, page.title) || "Untitled page"}
      </Heading>
      {page.shown_when ? (
        <Notes>
          <Says lead="Shown when" when={page.shown_when} doc={doc} />
        </Notes>
      ) : null}
      <Rows>
        {items.map((item, at) => (
          <ItemToRead
            key={item.key}
            item={item}
            doc={doc}
            number={isQuestion(item) ? numbered(at) : ""}
          />
        ))}
      </Rows>
      {page.checks?.length ? <Checks doc={doc} checks={page.checks} /> : null}
      <SkipRules doc={doc} page={page} />
      {items.length ? null : <Quiet>Nothing on this page yet.</Quiet>}
    </Whole>
  );
}
