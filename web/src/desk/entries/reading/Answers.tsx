/** The answers of an entry, page by page as they were asked; what is restricted is covered until it is
 * read. */
import { Link } from "@tanstack/react-router";
import { Fragment } from "react";
import styled from "styled-components";

import type { Schema } from "../../../client/client";
import { Tag } from "../../../ui/Arm";
import { Covered } from "./Covered";
import { Detail } from "./Detail";

const Lines = styled.dl`
  margin-top: 10px;
  > div {
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  dt {
    color: var(--ink-2);
    font-size: 13.5px;
  }
  dd {
    font-size: 15.5px;
    white-space: pre-line;
  }
`;

const Section = styled.h3`
  border-bottom: 2px solid var(--line-2);
  padding-bottom: 3px;
`;

interface AnswersProps {
  id: string;
  read: Schema<"EntryRead">;
  /** What of it was revealed. */
  seen: Readonly<Record<string, string>> | undefined;
  details: Readonly<Record<string, Schema<"DetailOut">>>;
  follows: boolean;
  reason: string;
}

type Column = Schema<"EntryRead">["columns"][number];

/** What stands on one page after the other. */
function sections(columns: readonly Column[]): { heading: string; columns: Column[] }[] {
  const found: { heading: string; columns: Column[] }[] = [];
  for (const column of columns) {
    const last = found.at(-1);
    if (last?.heading === (column.section ?? "")) last.columns.push(column);
    else found.push({ heading: column.section ?? "", columns: [column] });
  }
  return found;
}

export function Answers({ id, read, seen, details, follows, reason }: AnswersProps) {
  const { answers, withheld } = read.entry;
  const base = `/api/questionnaires/${id}/entries/${read.entry.id}`;
  const shown = read.columns.filter(({ key, restricted }) =>
    restricted ? !withheld || withheld.includes(key) : key in answers,
  );
  return sections(shown).map(({ heading, columns }, n) => (
    <Fragment key={n}>
      {heading ? <Section>{heading}</Section> : null}
      <Lines>
        {columns.map((column) => (
          <div key={column.key}>
            <dt>
              {column.label} {column.restricted ? <Tag $as="care">Restricted</Tag> : null}
              {column.restricted && read.cleared && follows ? (
                <>
                  {" "}
                  <Link
                    to="/trail"
                    search={{ questionnaire: id, entry: read.entry.id, answer: column.key }}
                    aria-label={`Seen by: ${column.label}`}
                  >
                    Seen by
                  </Link>
                </>
              ) : null}
            </dt>
            <dd dir="auto">
              <Answered
                words={column.restricted ? seen?.[column.key] : answers[column.key]}
                detail={details[column.key]}
                label={column.label}
                base={base}
                reason={reason}
              />
            </dd>
          </div>
        ))}
      </Lines>
    </Fragment>
  ));
}

interface AnsweredProps {
  words: string | undefined;
  detail: Schema<"DetailOut"> | undefined;
  label: string;
  base: string;
  reason: string;
}

/** An answer in words, or in full where it has more than words; covered while it is not read. */
function Answered({ words, detail, label, base, reason }: AnsweredProps) {
  if (words === undefined) return <Covered aria-hidden="true" />;
  return detail ? <Detail detail={detail} base={base} words={label} reason={reason} /> : words;
}
