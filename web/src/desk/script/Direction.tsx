/** What happens because of an item, or when: its stage direction in the margin. */
import { use } from "react";
import styled from "styled-components";

import { cameFrom, shownAs } from "../carried";
import { sentence } from "../condition/words";
import { isQuestion, type Condition, type Item } from "../document";
import { subjectsOf } from "../subjects";
import { DraftNow } from "../draft/part";

const Margin = styled.p`
  font-size: 12.5px;
  color: var(--ink-2);
  border-inline-start: 2px solid var(--line-2);
  padding-inline-start: 9px;
  line-height: 1.35;
  overflow-wrap: anywhere;
  > span {
    display: block;
  }
  b {
    color: var(--accent);
  }
`;

export function Direction({ item }: { item: Item }) {
  const doc = use(DraftNow);
  const required = isQuestion(item) ? item.required_when : null;
  if (doc && (item.shown_when ?? required)) {
    const says = (lead: string, condition: Condition) => (
      <span>
        {lead} <b>{sentence(condition, subjectsOf(doc, condition))}</b>
      </span>
    );
    return (
      <Margin>
        {item.shown_when ? says("Shown when", item.shown_when) : null}
        {required ? says("Required when", required) : null}
      </Margin>
    );
  }
  if (item.kind === "carried") {
    return (
      <Margin>
        {shownAs(item)}. {cameFrom(item)}
      </Margin>
    );
  }
  const unseen = item.kind === "computed" && !item.visible;
  return unseen ? <Margin>Never shown. Computed</Margin> : <span />;
}
