/** The skip rules of a page as staff read them. */
import { sentence } from "../condition/words";
import { targetName, type Doc, type Page } from "../document";
import { subjectsOf } from "../subjects";
import { SmallList } from "./SmallList";

export function SkipRules({ doc, page }: { doc: Doc; page: Page }) {
  if (!page.skips?.length) return null;
  return (
    <SmallList aria-label="Skip rules">
      {page.skips.map((skip, at) => (
        <li key={at}>
          If <b>{sentence(skip.when, subjectsOf(doc, skip.when))}</b>, go to{" "}
          {targetName(doc, skip.to)}
        </li>
      ))}
    </SmallList>
  );
}
