/** What stands on a page to share, one below the other: figures, words, and when entries came. */
import styled from "styled-components";

import { movedTo } from "../../../items/movedTo";
import { Button } from "../../../ui/Button";
import { Field } from "../../../ui/Field";
import { Picker } from "../../../ui/Picker";
import { Quiet } from "../../../ui/text";
import type { Around } from "./around";
import type { PagePart } from "./data";

/** A part with what it is told from others by while it is moved about. */
export interface Placed {
  id: number;
  part: PagePart;
}

const List = styled.ol`
  border-top: 1px solid var(--line);
  > li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 6px 12px;
    align-items: start;
    padding: 10px 2px;
    border-bottom: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  > li > span {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
  @media (max-width: 560px) {
    > li {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;

const Adding = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
`;

function named({ questions }: Around, part: PagePart): string {
  if (part.kind === "words") return "Words";
  if (part.kind === "arrivals") return "When they arrived";
  return questions.find(({ code }) => code === part.key)?.label ?? part.key;
}

interface OneProps {
  placed: Placed;
  around: Around;
  error: string | undefined;
  onPart: (part: PagePart) => void;
}

function One({ placed: { part }, around, error, onPart }: OneProps) {
  if (part.kind === "words") {
    return (
      <Field
        label="Words"
        help="Formatted as CommonMark: # a heading, **strong**, *emphasised*, - a list."
        lines={4}
        maxLength={4000}
        value={part.words}
        error={error}
        onChange={(words) => onPart({ ...part, words })}
      />
    );
  }
  const isGone = part.kind === "figure" && !around.questions.some(({ code }) => code === part.key);
  return (
    <div>
      <b>{named(around, part)}</b>{" "}
      <Quiet>{part.kind === "figure" ? part.key : "over time, by the hour"}</Quiet>
      {isGone || error ? (
        <p>{error ?? "It is restricted, or not there any more, and is not shown."}</p>
      ) : null}
    </div>
  );
}

interface PartsEditorProps {
  parts: readonly Placed[];
  around: Around;
  errorAt: (at: number) => string | undefined;
  onParts: (parts: readonly Placed[]) => void;
}

const ALL = " all";

export function PartsEditor({ parts, around, errorAt, onParts }: PartsEditorProps) {
  const add = (...more: PagePart[]) => {
    const first = Math.max(0, ...parts.map(({ id }) => id)) + 1;
    onParts([...parts, ...more.map((part, at) => ({ id: first + at, part }))]);
  };
  const figure = (key: string): PagePart => ({ kind: "figure", key });
  const on = new Set(parts.map(({ part }) => (part.kind === "figure" ? part.key : "")));
  const rest = around.questions.filter(({ code }) => !on.has(code));
  return (
    <>
      <h3>What is on it</h3>
      {parts.length ? (
        <List>
          {parts.map((placed, at) => {
            const called = `${named(around, placed.part)}, ${at + 1}`;
            return (
              <li key={placed.id}>
                <One
                  placed={placed}
                  around={around}
                  error={errorAt(at)}
                  onPart={(part) => onParts(parts.with(at, { ...placed, part }))}
                />
                <span>
                  <Button
                    aria-label={`Move ${called} up`}
                    isDisabled={at === 0}
                    onPress={() => onParts(movedTo(parts, at, at - 1))}
                  >
                    Up
                  </Button>
                  <Button
                    aria-label={`Move ${called} down`}
                    isDisabled={at === parts.length - 1}
                    onPress={() => onParts(movedTo(parts, at, at + 1))}
                  >
                    Down
                  </Button>
                  <Button
                    aria-label={`Remove ${called}`}
                    onPress={() => onParts(parts.filter((one) => one !== placed))}
                  >
                    Remove
                  </Button>
                </span>
              </li>
            );
          })}
        </List>
      ) : (
        <Quiet>Nothing yet.</Quiet>
      )}
      <Adding>
        {rest.length ? (
          <Picker
            inline
            label="Add a figure"
            placeholder="Add a figure"
            options={[
              ...(rest.length > 1 ? [{ code: ALL, label: `All ${rest.length}` }] : []),
              ...rest,
            ]}
            value={null}
            onChange={(code) =>
              add(...(code === ALL ? rest.map((one) => figure(one.code)) : [figure(code)]))
            }
          />
        ) : null}
        <Button onPress={() => add({ kind: "words", words: "" })}>Add words</Button>
        <Button onPress={() => add({ kind: "arrivals" })}>Add when they arrived</Button>
      </Adding>
    </>
  );
}
