/** The track: pages as stations down the line, finishes as its ends. */
import { memo } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { count, itemsOf, isQuestion, say, type Doc } from "../document";
import { addFinish, addPage, type Spot } from "../draft/edits";
import { fieldId, goTo, INTRODUCTION } from "../draft/fields";
import type { Draft } from "../draft/useDraft";
import { sticky } from "../shell/Section";

const Side = styled.nav`
  background: var(--mist);
  border-inline-end: 1px solid var(--line);
  padding: 14px 0;
  ${sticky}
  h2 {
    font: 600 13px var(--body);
    color: var(--ink-2);
    padding: 0 16px 8px;
  }
  > button {
    margin-inline-start: 12px;
  }
`;

const Line = styled.ol`
  position: relative;
  li {
    position: relative;
  }
  li::before {
    content: "";
    z-index: 1;
    position: absolute;
    inset-inline-start: 28px;
    top: 0;
    bottom: 0;
    width: 3px;
    background: var(--accent-mid);
  }
  li:first-child::before {
    top: 16px;
  }
`;

const Stop = styled.button<{ $end: boolean }>`
  position: relative;
  display: block;
  width: 100%;
  text-align: start;
  border: 0;
  background: none;
  padding: 8px 12px 12px 50px;
  cursor: pointer;
  font-weight: 600;
  overflow-wrap: anywhere;
  small {
    display: block;
    font-weight: 400;
    font-size: 12.5px;
    color: var(--ink-2);
  }
  &::before {
    content: "";
    z-index: 2;
    position: absolute;
    inset-inline-start: 22px;
    top: 11px;
    width: 15px;
    height: 15px;
    border: 3px solid var(--accent);
    border-radius: ${({ $end }) => ($end ? "1px" : "50%")};
    background: ${({ $end }) => ($end ? "var(--accent)" : "var(--paper)")};
  }
  &[aria-current="true"] {
    background: var(--paper);
  }
  &[aria-current="true"]::before {
    background: var(--accent);
    box-shadow: 0 0 0 4px var(--accent-soft);
  }
  &:focus-visible {
    outline-offset: -3px;
  }
`;

interface TrackProps {
  doc: Doc;
  spot: Spot | null;
  onSpot: (spot: Spot) => void;
  /** Null where nothing can be added. */
  edit: Draft["edit"] | null;
}

export const Track = memo(function Track({ doc, spot, onSpot, edit }: TrackProps) {
  return (
    <Side aria-label="Pages and finishes" data-region="track">
      <h2>
        {count(doc.pages.length, "page")}, {count(doc.finishes.length, "finish")}
      </h2>
      <Line>
        <li>
          <Stop
            type="button"
            $end={false}
            aria-current={spot?.on === "front"}
            onClick={() => {
              onSpot({ on: "front" });
              goTo(INTRODUCTION);
            }}
          >
            Front
            <small>introduction, look</small>
          </Stop>
        </li>
        {doc.pages.map((page, number) => (
          <li key={page.key}>
            <Stop
              type="button"
              $end={false}
              aria-current={spot?.on === "page" && spot.page === number}
              onClick={() => {
                onSpot({ on: "page", page: number, item: null });
                goTo(fieldId("page", page.key));
              }}
            >
              {number + 1} {say(doc, page.title) || "Untitled"}
              <small>
                {count(itemsOf(page).filter(isQuestion).length, "question")}
                {page.shown_when ? ", under a condition" : ""}
              </small>
              {page.skips?.length ? <small>{count(page.skips.length, "skip rule")}</small> : null}
            </Stop>
          </li>
        ))}
        {doc.finishes.map((finish, number) => (
          <li key={finish.key}>
            <Stop
              type="button"
              $end
              aria-current={spot?.on === "finish" && spot.finish === number}
              onClick={() => {
                onSpot({ on: "finish", finish: number });
                goTo(fieldId("finish", finish.key));
              }}
            >
              {say(doc, finish.title) || "Untitled"}
              <small>{number === 0 ? "where everybody ends by default" : "finish"}</small>
            </Stop>
          </li>
        ))}
      </Line>
      {edit ? (
        <>
          <Button
            weight="word"
            onPress={() => {
              edit((now) => addPage(now, now.pages.length));
              onSpot({ on: "page", page: doc.pages.length, item: null });
            }}
          >
            Add a page
          </Button>
          <Button
            weight="word"
            onPress={() => {
              edit(addFinish);
              onSpot({ on: "finish", finish: doc.finishes.length });
            }}
          >
            Add a finish
          </Button>
        </>
      ) : null}
    </Side>
  );
});
