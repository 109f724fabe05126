/** The skip rules of a page as staff read them. */
import styled from "styled-components";

import { sentence } from "../condition/words";
import { targetName, type Doc, type Page } from "../document";
import { subjectsOf } from "../subjects";

const List = styled.ul`
  font-size: 13.5px;
  color: var(--ink-2);
  padding-block: 5px;
  b {
    color: var(--accent);
  }
`;

export function SkipRules({ doc, page }: { doc: Doc; page: Page }) {
  if (!page.skips?.length) return null;
  return (
    <List aria-label="Skip rules">
      {page.skips.map((skip, at) => (
        <li key={at}>
          If <b>{sentence(skip.when, subjectsOf(doc, skip.when))}</b>, go to{" "}
          {targetName(doc, skip.to)}
        </li>
      ))}
    </List>
  );
}
