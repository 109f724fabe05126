/** A question with its answers written in. */
import { Link } from "@tanstack/react-router";
import styled from "styled-components";

import { Mono, Quiet } from "../../ui/text";
import type { Counted, QuestionFigure } from "./data";
import { OnePicture } from "./OnePicture";
import { PictureExport } from "./PictureExport";
import { Group, Two } from "./Two";
import { many } from "./words";

const Part = styled.section`
  padding: 14px 0 16px;
  border-bottom: 1px solid var(--line);
  min-width: 0;
`;

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  justify-content: space-between;
  align-items: baseline;
  margin-block-end: 8px;
  h3 {
    font-size: 16px;
    font-family: var(--body);
    letter-spacing: 0;
    overflow-wrap: anywhere;
  }
  > span {
    font-size: 13.5px;
    color: var(--ink-2);
  }
`;

const TEXTS = new Set(["short_text", "long_text", "email", "phone", "web_address"]);

/** Who was asked, who left it empty, and who was not asked. */
function Asked({ one, entries }: { one: QuestionFigure; entries: number }) {
  if (one.restricted) return <span>restricted</span>;
  if (one.asked === null) return <span>{many(one.answered)} have it</span>;
  const rest = [
    one.asked > one.answered ? `${many(one.asked - one.answered)} left it empty` : "",
    entries > one.asked ? `${many(entries - one.asked)} were not asked` : "",
  ].filter(Boolean);
  return (
    <span>
      {many(one.answered)} of {many(one.asked)} answered
      {rest.length ? `; ${rest.join(", ")}` : ""}
    </span>
  );
}

function Body({ one, id }: { one: QuestionFigure; id: string }) {
  if (one.restricted) {
    return <Quiet>Restricted answers are not counted here.</Quiet>;
  }
  if (!one.answered) return <Quiet>Nobody has answered this yet.</Quiet>;
  if (!one.picture) {
    return <Quiet>There are too many different answers to draw. Filter the entries.</Quiet>;
  }
  return (
    <>
      <OnePicture picture={one.picture} name={one.label} />
      {TEXTS.has(one.kind) ? (
        <p style={{ marginBlockStart: 6 }}>
          <Link
            to="/q/$id/entries"
            params={{ id }}
            search={{ view: { filter: { op: "answered", item: one.key } } }}
          >
            Read them in Entries
          </Link>
        </p>
      ) : null}
    </>
  );
}

interface QuestionPartProps {
  one: QuestionFigure;
  entries: number;
  id: string;
  counted: Counted;
  /** The same question as other entries answered it. */
  beside?: { one: QuestionFigure; entries: number } | undefined;
}

export function QuestionPart({ one, entries, id, counted, beside }: QuestionPartProps) {
  const { other } = one;
  const isBoth = beside && !one.restricted;
  return (
    <Part id={`figure-${one.key}`}>
      <Head>
        <h3>
          {one.words || one.label} {one.words ? null : <Mono>{one.key}</Mono>}
        </h3>
        <span>
          {isBoth ? null : <Asked one={one} entries={entries} />}
          {one.picture ? <PictureExport id={id} one={one} counted={counted} /> : null}
        </span>
      </Head>
      {isBoth ? (
        <Two>
          <Group label="These">
            <Asked one={one} entries={entries} />
            <Body one={one} id={id} />
          </Group>
          <Group label="Beside them" isBeside>
            <Asked {...beside} />
            <Body one={beside.one} id={id} />
          </Group>
        </Two>
      ) : (
        <Body one={one} id={id} />
      )}
      {other.length ? (
        <Quiet>
          Not counted: {other.length === 1 ? "edition" : "editions"} {other.join(", ")}, which asked
          for something of another form.
        </Quiet>
      ) : null}
    </Part>
  );
}
