/** A whole questionnaire made for reading: introduction, pages, finishes. */
import styled from "styled-components";

import { Mono, Quiet } from "../../ui/text";
import { isQuestion, itemsOf, say, type Doc } from "../document";
import { fieldId, INTRODUCTION } from "../draft/fields";
import { PageToRead } from "./PageToRead";

const Part = styled.section`
  margin-bottom: 26px;
  max-width: 780px;
  h2,
  h3 {
    font-size: 16px;
    color: var(--ink-2);
  }
  li {
    border-top: 1px solid var(--line);
    padding: 9px 0 10px;
    overflow-wrap: anywhere;
  }
  p {
    white-space: pre-wrap;
  }
`;

/** For each page, how many questions stand on those before it. */
export function askedBefore(doc: Doc): number[] {
  let total = 0;
  return doc.pages.map((page) => {
    const before = total;
    total += itemsOf(page).filter(isQuestion).length;
    return before;
  });
}

interface ScriptToReadProps {
  doc: Doc;
  level?: "h2" | "h3";
}

export function ScriptToRead({ doc, level: Heading = "h2" }: ScriptToReadProps) {
  const asked = askedBefore(doc);
  const introduction = say(doc, doc.look?.introduction);
  return (
    <>
      {introduction ? (
        <Part aria-label="Front">
          <Heading id={INTRODUCTION} tabIndex={-1}>
            Introduction
          </Heading>
          <p>{introduction}</p>
        </Part>
      ) : null}
      {doc.pages.map((page, at) => (
        <PageToRead
          key={page.key}
          doc={doc}
          page={page}
          number={at}
          asked={asked[at] ?? 0}
          level={Heading}
        />
      ))}
      <Part aria-label="Finishes">
        <Heading>Finishes</Heading>
        <ul>
          {doc.finishes.map((finish) => (
            <li key={finish.key}>
              <b id={fieldId("finish", finish.key)} tabIndex={-1}>
                {say(doc, finish.title) || "Untitled"}
              </b>{" "}
              <Mono>{finish.key}</Mono>
              <p>{say(doc, finish.message)}</p>
              {finish.link ? (
                <Quiet>
                  {say(doc, finish.link.label)}: {finish.link.address}
                </Quiet>
              ) : null}
            </li>
          ))}
        </ul>
      </Part>
    </>
  );
}
