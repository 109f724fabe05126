/** What stands before the first page: the introduction. */
import { memo } from "react";
import styled from "styled-components";

import { Paragraphs } from "../../ui/Inline";
import { Quiet } from "../../ui/text";
import { say } from "../document";
import { changeLook } from "../draft/edits";
import { INTRODUCTION } from "../draft/fields";
import type { ScriptPart } from "../draft/part";

const Whole = styled.section<{ $chosen: boolean }>`
  padding: 2px 8px 12px;
  margin: 0 0 18px -12px;
  border-inline-start: 4px solid ${({ $chosen }) => ($chosen ? "var(--accent)" : "transparent")};
  h2 {
    font-size: 16px;
    color: var(--ink-2);
    margin-bottom: 6px;
  }
`;

const PLACES = { above: "Below the picture", beside: "Beside the picture", none: "" } as const;

export const FrontPart = memo(function FrontPart({ draft, spot, onSpot }: ScriptPart) {
  const { doc } = draft;
  const { picture } = doc.look ?? {};
  const place = picture && PLACES[picture.place ?? "above"];
  return (
    <Whole aria-label="Front" $chosen={spot.on === "front"} onFocus={() => onSpot({ on: "front" })}>
      <h2>Introduction</h2>
      <Paragraphs
        id={INTRODUCTION}
        name="Introduction"
        value={say(doc, doc.look?.introduction)}
        placeholder="What people read before the first question, in CommonMark"
        onChange={(words) =>
          draft.edit((now) => changeLook(now, "introduction", words), "introduction")
        }
      />
      {place ? <Quiet>{place}</Quiet> : null}
    </Whole>
  );
});
