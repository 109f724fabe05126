/** One page of the script: its title, its items, and where it leads. */
import { memo } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Inline } from "../../ui/Inline";
import { Quiet } from "../../ui/text";
import { sentence } from "../condition/words";
import { isQuestion, itemsOf, say, told, type Page } from "../document";
import { subjectsOf } from "../subjects";
import { addItem, changePage, newItem } from "../draft/edits";
import { Checks } from "../reading/Checks";
import { SkipRules } from "../reading/SkipRules";
import { ItemRow } from "./ItemRow";
import { changeAndFocus, fieldId } from "../draft/fields";
import { isAt, type ScriptPart } from "../draft/part";
import { stableKeyOf } from "../draft/stableKeys";

const Whole = styled.section`
  margin-bottom: 26px;
`;

const Head = styled.div<{ $chosen: boolean }>`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 8px;
  align-items: baseline;
  padding: 2px 8px 6px;
  border-inline-start: 4px solid ${({ $chosen }) => ($chosen ? "var(--accent)" : "transparent")};
  margin-inline-start: -12px;
  font: 700 20px var(--head);
`;

const When = styled.p`
  padding: 0 8px 6px 0;
  font-size: 13px;
  color: var(--ink-2);
  b {
    color: var(--accent);
  }
`;

interface ScriptPageProps extends ScriptPart {
  page: Page;
  number: number;
  /** How many questions stand on the pages before. */
  asked: number;
}

/** Whether a page can stay as it is drawn: see the same of `ItemRow`. */
function stays(before: ScriptPageProps, after: ScriptPageProps): boolean {
  const works = [before, after].some(
    ({ spot, number }) => spot.on === "page" && spot.page === number,
  );
  const tells = Boolean(
    after.page.shown_when ?? (after.page.skips?.length || after.page.checks?.length),
  );
  return (
    !works &&
    before.page === after.page &&
    before.number === after.number &&
    before.asked === after.asked &&
    (!tells || before.draft.doc === after.draft.doc)
  );
}

export const ScriptPage = memo(WholePage, stays);

function WholePage({ page, number, asked, draft, spot, onSpot }: ScriptPageProps) {
  const { doc } = draft;
  const items = itemsOf(page);
  const add = (at: number) => {
    const item = newItem(doc, "short_text");
    changeAndFocus(
      () => {
        draft.edit((now) => addItem(now, number, at, item));
        onSpot({ on: "page", page: number, item: at });
      },
      fieldId("item", item.key),
    );
  };
  return (
    <Whole aria-label={`Page ${number + 1}`}>
      <Head $chosen={isAt(spot, number, null)}>
        <span>{number + 1}</span>
        <Inline
          id={fieldId("page", page.key)}
          name={`Title of page ${number + 1}`}
          value={say(doc, page.title)}
          placeholder="Untitled page"
          onFocus={() => onSpot({ on: "page", page: number, item: null })}
          onChange={(words) =>
            draft.edit(
              (now) =>
                changePage(now, number, (one) => ({
                  ...one,
                  title: told(doc, one.title, words),
                })),
              `title ${page.key}`,
            )
          }
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            add(0);
          }}
        />
      </Head>
      {page.shown_when ? (
        <When>
          Shown when <b>{sentence(page.shown_when, subjectsOf(doc, page.shown_when))}</b>
        </When>
      ) : null}
      {items.map((item, at) => {
        const question = asked + items.slice(0, at + 1).filter(isQuestion).length;
        return (
          <ItemRow
            key={stableKeyOf(draft.stableKeys, item.key)}
            item={item}
            page={number}
            at={at}
            question={isQuestion(item) ? question : null}
            draft={draft}
            spot={spot}
            onSpot={onSpot}
            onAdd={() => add(at + 1)}
          />
        );
      })}
      {page.checks?.length ? <Checks doc={doc} checks={page.checks} /> : null}
      <SkipRules doc={doc} page={page} />
      <Button weight="word" onPress={() => add(items.length)}>
        Add a question
      </Button>
      {items.length ? null : <Quiet>Nothing on this page yet. Press Enter in its title.</Quiet>}
    </Whole>
  );
}
