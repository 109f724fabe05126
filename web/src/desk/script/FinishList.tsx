/** The finishes: the words that a respondent ends with. */
import { memo } from "react";
import styled from "styled-components";

import { Inline } from "../../ui/Inline";
import { Mono, Quiet } from "../../ui/text";
import { told, say } from "../document";
import { changeFinish } from "../draft/edits";
import { fieldId } from "../draft/fields";
import type { ScriptPart } from "../draft/part";

const Whole = styled.section`
  h2 {
    font-size: 16px;
    color: var(--ink-2);
    margin-bottom: 4px;
  }
`;

const Row = styled.div<{ $chosen: boolean }>`
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr);
  padding: 9px 12px 10px 0;
  border-top: 1px solid var(--line);
  border-inline-start: 4px solid ${({ $chosen }) => ($chosen ? "var(--accent)" : "transparent")};
  background: ${({ $chosen }) => ($chosen ? "var(--paper)" : "none")};
  margin-inline: -12px;
  &::before {
    content: "";
    width: 13px;
    height: 13px;
    background: var(--accent);
    margin: 5px 0 0 8px;
  }
`;

const Heading = styled.div`
  font-size: 15.5px;
  font-weight: 600;
`;

export const FinishList = memo(function FinishList({ draft, spot, onSpot }: ScriptPart) {
  const { doc } = draft;
  return (
    <Whole aria-label="Finishes">
      <h2>Finishes</h2>
      {doc.finishes.map((finish, number) => (
        <Row
          key={finish.key}
          $chosen={spot.on === "finish" && spot.finish === number}
          onFocus={() => onSpot({ on: "finish", finish: number })}
        >
          <div>
            <Heading>
              <Inline
                id={fieldId("finish", finish.key)}
                name={`Heading of finish ${number + 1}`}
                value={say(doc, finish.title)}
                placeholder="Heading"
                onChange={(words) =>
                  draft.edit(
                    (now) =>
                      changeFinish(now, number, (one) => ({
                        ...one,
                        title: told(doc, one.title, words),
                      })),
                    `finish ${number}`,
                  )
                }
              />
            </Heading>
            <Inline
              name={`Message of finish ${number + 1}`}
              value={say(doc, finish.message)}
              placeholder="What it says below the heading"
              onChange={(words) =>
                draft.edit(
                  (now) =>
                    changeFinish(now, number, (one) => ({
                      ...one,
                      message: told(doc, one.message, words),
                    })),
                  `message ${number}`,
                )
              }
            />
            <Mono>{finish.key}</Mono>{" "}
            {say(doc, finish.message).trim() ? null : (
              <Quiet>It says its heading only. Tell people what happens next.</Quiet>
            )}
          </div>
        </Row>
      ))}
    </Whole>
  );
});
