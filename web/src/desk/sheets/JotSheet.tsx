/** Jot: an outline on the left, and the typed questions that it makes on the right. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Mono, Quiet } from "../../ui/text";
import {
  count,
  everyKeyed,
  first,
  KIND_NAMES,
  optionsOf,
  say,
  type Item,
  type Kind,
} from "../document";
import { outline } from "../data";
import { asKind } from "../draft/edits";
import { useRested } from "../useRested";

const Beside = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 20px;
  @media (max-width: 760px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Outline = styled.textarea`
  width: 100%;
  min-height: 52vh;
  padding: 10px 12px;
  border: 1px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  line-height: 1.6;
  resize: vertical;
  tab-size: 4;
`;

const Made = styled.div`
  max-height: 58vh;
  overflow: auto;
  position: relative;
  padding-inline-end: 6px;
  h3 {
    font-size: 15px;
    padding: 8px 0 4px;
  }
`;

const Question = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 10px;
  align-items: start;
  padding: 7px 0;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
  i {
    color: var(--rust);
    font-weight: 700;
  }
  > :nth-child(n + 3) {
    grid-column: 1 / -1;
  }
`;

const LeftLine = styled.span`
  display: block;
  overflow-wrap: anywhere;
`;

/** Milliseconds for which an outline has to rest before it is read. */
const PAUSE = 150;

type Jotted = Schema<"JottedOut">;

/** What is picked from, or the lines of a grid. */
function listedIn(item: Item) {
  return item.kind === "grid" ? (item.rows ?? []) : optionsOf(item);
}

/** A kind that was chosen holds for the words it was chosen for, wherever they move. */
type Chosen = Readonly<Record<string, Kind>>;

const KIND_OPTIONS = (Object.keys(KIND_NAMES) as Kind[])
  .filter((kind) => !["roster", "carried", "computed", "picture", "video"].includes(kind))
  .map((code) => ({ code, label: KIND_NAMES[code] }));

interface JotSheetProps {
  doc: Parameters<typeof everyKeyed>[0];
  text: string;
  onText: (text: string) => void;
  onAdd: (pages: { title: string; items: Item[] }[]) => void;
  onClose: () => void;
}

export function JotSheet({ doc, text, onText, onAdd, onClose }: JotSheetProps) {
  const language = first(doc);
  const rested = useRested(text, PAUSE);
  const [chosen, setChosen] = useState<Chosen>({});
  const query = useQuery({
    ...outline(rested, language, () => everyKeyed(doc).map(({ key }) => key)),
    enabled: rested.trim() !== "",
    placeholderData: keepPreviousData,
  });
  const found = rested.trim() ? query.data : undefined;
  const kindOf = ({ item }: Jotted): Kind => chosen[say(doc, item.text)] ?? item.kind;
  const made = (one: Jotted): Item =>
    kindOf(one) === one.item.kind ? one.item : asKind(one.item, kindOf(one));
  const pages = (found?.pages ?? []).map(({ title, items }) => ({ title, items: items.map(made) }));
  const total = pages.reduce((sum, { items }) => sum + items.length, 0);
  const resting = rested === text && !query.isFetching;
  return (
    <Sheet title="Jot several questions" open onClose={onClose} width="whole">
      <Beside>
        <div>
          <Outline
            aria-label="Outline"
            value={text}
            autoFocus
            placeholder={
              "What is your name? *\nWhere does the water come from?\n- Own well\n- Mains supply\n\n# The visit\nWhat time suits you?"
            }
            onChange={(event) => onText(event.target.value)}
          />
          <Quiet as="p">
            A line is a question. <Mono>-</Mono> or set in: an option. <Mono>*</Mono>: required.{" "}
            <Mono>#</Mono> or a blank line: a page. <Mono>e.g.</Mono>: an example. Rows of a
            spreadsheet or a table work too.
          </Quiet>
        </div>
        <Made role="region" aria-label="Questions made of it" tabIndex={0}>
          {query.error ? <Strip tone="wrong">{query.error.message}</Strip> : null}
          {found?.remarks.map((remark) => (
            <Quiet as="p" key={remark}>
              {remark}
            </Quiet>
          ))}
          {found?.left.length ? (
            <Strip>
              <div>
                Left out, since it found no place:
                {found.left.map(({ line, words }) => (
                  <LeftLine key={line}>
                    <Mono>line {line}</Mono> {words}
                  </LeftLine>
                ))}
              </div>
            </Strip>
          ) : null}
          {found ? null : <Quiet as="p">The questions appear here while you write.</Quiet>}
          {found?.pages.map((page, number) => (
            <section key={number}>
              {found.pages.length > 1 || page.title ? (
                <h3>{page.title || (number ? "New page" : "This page")}</h3>
              ) : null}
              <ol>
                {page.items.map((one) => (
                  <JottedRow
                    key={one.item.key}
                    jotted={one}
                    item={made(one)}
                    words={say(doc, one.item.text)}
                    options={listedIn(made(one)).map(({ label }) => say(doc, label))}
                    onKind={(kind) =>
                      setChosen((now) => ({ ...now, [say(doc, one.item.text)]: kind }))
                    }
                  />
                ))}
              </ol>
            </section>
          ))}
        </Made>
      </Beside>
      <Actions>
        <Quiet role="status" style={{ marginInlineEnd: "auto" }}>
          {total ? `${count(total, "item")} on ${count(pages.length, "page")}` : ""}
        </Quiet>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" isDisabled={!total || !resting} onPress={() => onAdd(pages)}>
          {total ? `Add ${count(total, "item")}` : "Add"}
        </Button>
      </Actions>
    </Sheet>
  );
}

interface JottedRowProps {
  jotted: Jotted;
  item: Item;
  words: string;
  options: readonly string[];
  onKind: (kind: Kind) => void;
}

function JottedRow({ jotted, item, words, options, onKind }: JottedRowProps) {
  const guessed = item.kind === jotted.item.kind;
  const placeholder = "placeholder" in item ? Object.values(item.placeholder ?? {})[0] : "";
  const help = "help" in item ? Object.values(item.help ?? {})[0] : "";
  return (
    <Question>
      <span>
        {words} {"required" in item && item.required ? <i title="required">*</i> : null}
      </span>
      <Choose
        name={`Kind of ${words}`}
        value={item.kind}
        options={KIND_OPTIONS}
        onChange={(kind) => onKind(kind as Kind)}
      />
      {options.length ? <span>{options.join(" · ")}</span> : null}
      {placeholder || help ? (
        <Quiet>{[placeholder && `Example: ${placeholder}`, help].filter(Boolean).join(". ")}</Quiet>
      ) : null}
      <Quiet>{guessed ? `Since ${jotted.why}.` : "Your choice."}</Quiet>
    </Question>
  );
}
