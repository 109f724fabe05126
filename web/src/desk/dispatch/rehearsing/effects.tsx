/** What an act would come to: a row, a letter, a status, or why it would not be done. */
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../../client/client";
import { Picker } from "../../../ui/Picker";
import { Mono, Quiet } from "../../../ui/text";
import { cellWords } from "../../registers/columns";
import type { Around } from "../editors";
import type { Register } from "../rules";
import { setLine } from "../setWords";

const Box = styled.article`
  border: 1px solid var(--line-2);
  border-radius: 4px;
  overflow-wrap: anywhere;
  header {
    background: var(--mist);
    padding: 7px 11px;
    font-size: 13.5px;
  }
  dl {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 2px 12px;
    padding: 9px 11px;
  }
  dt {
    color: var(--ink-2);
  }
  pre {
    font: inherit;
    white-space: pre-wrap;
    margin: 0;
    padding: 9px 11px;
  }
`;

const Phone = styled.div`
  max-width: 360px;
  margin-inline: auto;
  padding: 4px 14px 12px;
  font-size: 16px;
  overflow-wrap: anywhere;
  table {
    border-collapse: collapse;
    th,
    td {
      border-top: 1px solid var(--line);
      text-align: start;
      vertical-align: top;
      padding: 4px 8px 4px 0;
    }
  }
  ul,
  ol {
    padding-inline-start: 22px;
    list-style: revert;
  }
  p {
    margin-block: 8px;
  }
`;

const Not = styled.p`
  color: var(--rust);
  padding: 7px 11px;
`;

const Beside = styled.p`
  padding: 0 11px 9px;
`;

type Effect = Schema<"Rehearsal">["effects"][number];

function Letter({ effect }: { effect: Extract<Effect, { kind: "notice" }> }) {
  const [view, setView] = useState("phone");
  return (
    <Box>
      <header>
        To <b>{effect.to}</b>
        {effect.gathered === "at_once" ? "" : ", gathered with others"}
        {effect.printed ? ", with the entry as a PDF" : ""}
        <br />
        {effect.subject || "(no subject)"}
        <br />
        <Picker
          inline
          label="How the letter is shown"
          options={[
            { code: "phone", label: "as on a phone" },
            { code: "plain", label: "as plain text" },
          ]}
          value={view}
          onChange={setView}
        />
      </header>
      {view === "phone" ? (
        <Phone
          lang={effect.language}
          dir="auto"
          dangerouslySetInnerHTML={{ __html: effect.html || "(no words)" }}
        />
      ) : (
        <pre dir="auto">{effect.plain || "(no words)"}</pre>
      )}
    </Box>
  );
}

const rowName = ({ id }: { id: number | null }) =>
  id === null ? "the row that was just added" : `row ${id}`;

function Filed({ effect, known }: { effect: Extract<Effect, { kind: "row" }>; known: Known }) {
  const register = known.find(({ id }) => id === effect.register_id);
  const changes = effect.rows.length > 0;
  const columns = register?.columns ?? [];
  return (
    <Box>
      <header>
        {register?.name ?? "A register"},{" "}
        <b>{changes ? `${effect.rows.map(rowName).join(", ")} changes` : "new row"}</b>
      </header>
      {effect.why_not ? <Not>{effect.why_not}</Not> : null}
      {effect.rows.map((row) => (
        <dl key={row.id ?? "new"}>
          {columns
            .filter(({ key }) => key in row.after)
            .map((column) => (
              <div key={column.key} style={{ display: "contents" }}>
                <dt>{column.label}</dt>
                <dd>
                  <del>{cellWords(row.before[column.key], column) || "empty"}</del>{" "}
                  {cellWords(row.after[column.key], column)}
                </dd>
              </div>
            ))}
          {Object.keys(row.after).length ? null : <dt>Nothing in it would change.</dt>}
        </dl>
      ))}
      {changes ? null : (
        <dl>
          {columns.map((column) => (
            <div key={column.key} style={{ display: "contents" }}>
              <dt>{column.label}</dt>
              <dd>
                {column.key in effect.values ? (
                  cellWords(effect.values[column.key], column)
                ) : (
                  <Quiet>left out</Quiet>
                )}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {effect.kept ? (
        <Beside>What is restricted goes beside it, and is not shown here.</Beside>
      ) : null}
    </Box>
  );
}

type Known = readonly Register[];

interface ShownProps {
  effect: Effect;
  known: Known;
  around: Around;
}

const OF: Record<Schema<"RunOut">["kind"], string> = {
  row: "No row",
  notice: "No letter",
  call: "No call",
  status: "No status",
  care: "Nobody takes care",
  contact: "No field of the contact",
  value: "No carried value",
  list: "Nobody on a list",
};

export function Shown({ effect, known, around }: ShownProps) {
  switch (effect.kind) {
    case "notice":
      return <Letter effect={effect} />;
    case "row":
      return <Filed effect={effect} known={known} />;
    case "call":
      return (
        <Box>
          <header>
            Call{" "}
            <b>{around.hooks.find(({ id }) => id === effect.hook_id)?.name ?? "another system"}</b>,
            signed
          </header>
          <pre>
            <Mono>{JSON.stringify(effect.body, null, 2)}</Mono>
          </pre>
          {around.hooks.find(({ id }) => id === effect.hook_id)?.cleared ? (
            <Beside>What is restricted goes along, and is not shown here.</Beside>
          ) : null}
        </Box>
      );
    case "not_done":
      return (
        <Box>
          <header>
            <b>{OF[effect.of]}</b>
          </header>
          {effect.left_out ? <p>{effect.why_not}</p> : <Not>{effect.why_not}</Not>}
        </Box>
      );
    default:
      return (
        <Box>
          <header>
            <b>{setLine(effect, around)}</b>
            {effect.kind === "list" ? (
              <>
                <br />
                {effect.question} <b>{effect.answer}</b>
              </>
            ) : null}
          </header>
          {effect.why_not ? <p>{effect.why_not}</p> : null}
        </Box>
      );
  }
}
