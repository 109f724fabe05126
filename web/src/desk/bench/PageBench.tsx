/** The bench of a page: when it is shown, and its skip rules. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import { BLANK } from "../condition/edit";
import { ConditionEditor } from "../condition/ConditionEditor";
import { itemsOf, say, targetName, type Page, type Skip } from "../document";
import { earlier } from "../subjects";
import { CrossChecks } from "../kinds/CrossChecks";
import { changePage, movePage, type Spot } from "../draft/edits";
import { Pair, Section } from "../shell/Section";
import type { Draft } from "../draft/useDraft";

const Rule = styled.li`
  border-inline-start: 2px solid var(--line-2);
  padding-inline-start: 10px;
  display: grid;
  gap: 6px;
  justify-items: start;
`;

const Rules = styled.ol`
  display: grid;
  gap: 12px;
`;

interface PageBenchProps {
  page: Page;
  number: number;
  draft: Draft;
  onSpot: (spot: Spot) => void;
  onDelete: () => void;
}

/** A target of a skip rule as one code, and back. */
const codeOf = (to: Skip["to"]) => (to.kind === "page" ? `page ${to.page}` : `finish ${to.finish}`);

const isChosen = (to: Skip["to"]) => to.kind === "page" || to.finish !== "";

function targetOf(code: string): Skip["to"] {
  const [kind, key = ""] = code.split(" ");
  return kind === "page" ? { kind: "page", page: key } : { kind: "finish", finish: key };
}

function SkipRules({ page, number, draft }: Pick<PageBenchProps, "page" | "number" | "draft">) {
  const { doc } = draft;
  const skips = page.skips ?? [];
  const subjects = earlier(doc, number, itemsOf(page).length);
  const targets: Skip["to"][] = [
    ...doc.pages.slice(number + 1).map(({ key }): Skip["to"] => ({ kind: "page", page: key })),
    ...doc.finishes.map(({ key }): Skip["to"] => ({
      kind: "finish",
      finish: key,
    })),
  ];
  const options = targets.map((to) => ({
    code: codeOf(to),
    label: targetName(doc, to),
  }));
  const set = (next: Skip[], step = "") =>
    draft.edit((now) => changePage(now, number, (one) => ({ ...one, skips: next })), step);
  const change = (at: number, part: Partial<Skip>) =>
    set(
      skips.map((one, other) => (other === at ? { ...one, ...part } : one)),
      `skip ${page.key} ${at}`,
    );
  const drop = (at: number) => set(skips.filter((_, other) => other !== at));
  return (
    <Section title="After this page">
      <Rules>
        {skips.map((skip, at) => (
          <Rule key={at}>
            <span>If</span>
            <ConditionEditor
              condition={skip.when}
              subjects={subjects}
              none=""
              onChange={(when) => (when ? change(at, { when }) : drop(at))}
            />
            <span>
              go to{" "}
              <Picker
                inline
                label="Where it leads"
                options={options}
                value={
                  options.some(({ code }) => code === codeOf(skip.to)) ? codeOf(skip.to) : null
                }
                placeholder={isChosen(skip.to) ? targetName(doc, skip.to) : "choose where"}
                onChange={(code) => change(at, { to: targetOf(code) })}
              />
            </span>
            <Button weight="word" onPress={() => drop(at)}>
              Delete this rule
            </Button>
          </Rule>
        ))}
      </Rules>
      <p>
        {skips.length ? "Otherwise" : "Everybody goes on to"} the next page
        {number + 1 === doc.pages.length
          ? `, here the finish "${say(doc, doc.finishes[0]?.title)}"`
          : ""}
        .
      </p>
      {subjects.length ? (
        <Button
          weight="word"
          onPress={() =>
            set([
              ...skips,
              {
                when: BLANK,
                to: { kind: "finish", finish: "" },
              },
            ])
          }
        >
          Add a skip rule
        </Button>
      ) : null}
    </Section>
  );
}

export function PageBench({ page, number, draft, onSpot, onDelete }: PageBenchProps) {
  const { doc } = draft;
  return (
    <>
      <Section title={`Page ${number + 1}`}>
        <Pair>
          <Button
            isDisabled={number === 0}
            onPress={() => {
              draft.edit((now) => movePage(now, number, -1));
              onSpot({ on: "page", page: number - 1, item: null });
            }}
          >
            Move up
          </Button>
          <Button
            isDisabled={number + 1 === doc.pages.length}
            onPress={() => {
              draft.edit((now) => movePage(now, number, 1));
              onSpot({ on: "page", page: number + 1, item: null });
            }}
          >
            Move down
          </Button>
        </Pair>
        {doc.pages.length > 1 ? <Button onPress={onDelete}>Delete this page</Button> : null}
      </Section>
      <Section title="Shown when">
        <ConditionEditor
          condition={page.shown_when}
          subjects={earlier(doc, number, 0)}
          none="Everyone sees this page."
          onChange={(shown_when) =>
            draft.edit(
              (now) => changePage(now, number, (one) => ({ ...one, shown_when })),
              `when ${page.key}`,
            )
          }
        />
      </Section>
      <CrossChecks
        doc={doc}
        checks={page.checks ?? []}
        subjects={earlier(doc, number, itemsOf(page).length)}
        onChange={(checks, step = "") =>
          draft.edit((now) => changePage(now, number, (one) => ({ ...one, checks })), step)
        }
      />
      <SkipRules page={page} number={number} draft={draft} />
    </>
  );
}
