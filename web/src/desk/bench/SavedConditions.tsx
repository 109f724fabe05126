/** The conditions that are saved under names: what they say, and where they are used. */
import { useMemo } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Quiet } from "../../ui/text";
import { ConditionEditor } from "../condition/ConditionEditor";
import type { ConditionTools } from "../condition/tools";
import { count, type Condition, type Doc } from "../document";
import { earlier, type Saved } from "../subjects";
import { keyFrom } from "../keys";
import { Section } from "../shell/Section";
import type { Draft } from "../draft/useDraft";

const List = styled.ul`
  display: grid;
  gap: 14px;
  > li {
    display: grid;
    gap: 6px;
    border-inline-start: 2px solid var(--line-2);
    padding-inline-start: 10px;
    justify-items: start;
  }
`;

const changed = (doc: Doc, key: string, part: Partial<Saved>): Doc => ({
  ...doc,
  saved: (doc.saved ?? []).map((one) => (one.key === key ? { ...one, ...part } : one)),
});

/** How often the saved condition `name` is used in `part`. */
function usesOf(part: unknown, name: string): number {
  if (typeof part !== "object" || part === null) return 0;
  const here = "op" in part && part.op === "saved" && "name" in part && part.name === name;
  return Object.values(part).reduce<number>((sum, one) => sum + usesOf(one, name), here ? 1 : 0);
}

/** What editors of conditions are given by this draft. */
export function useConditionTools(draft: Draft): ConditionTools {
  const { doc, edit } = draft;
  const saved = doc.saved;
  return useMemo(
    () => ({
      saved: saved ?? [],
      save: (name: string, when: Condition): Condition => {
        const key = keyFrom(name, new Set((saved ?? []).map((one) => one.key)), "condition");
        edit((now) => ({ ...now, saved: [...(now.saved ?? []), { key, name, when }] }));
        return { op: "saved", name: key };
      },
    }),
    [saved, edit],
  );
}

export function SavedConditions({ draft }: { draft: Draft }) {
  const { doc, edit } = draft;
  const subjects = earlier(doc, doc.pages.length, 0);
  return (
    <Section title="Saved conditions">
      {doc.saved?.length ? null : (
        <p>Save a condition under a name where you write it, to use it in several places.</p>
      )}
      <List>
        {(doc.saved ?? []).map(({ key, name, when }) => {
          const used = usesOf(doc.pages, key);
          return (
            <li key={key}>
              <Field
                label="Name"
                value={name}
                onChange={(words) =>
                  edit((now) => changed(now, key, { name: words }), `saved ${key}`)
                }
              />
              <ConditionEditor
                condition={when}
                subjects={subjects}
                none=""
                onChange={(next) => {
                  if (next) edit((now) => changed(now, key, { when: next }), `saved when ${key}`);
                }}
              />
              <Quiet>{used ? `Used in ${count(used, "place")}` : "Not used yet"}</Quiet>
              {used ? null : (
                <Button
                  weight="word"
                  onPress={() =>
                    edit((now) => ({
                      ...now,
                      saved: (now.saved ?? []).filter((one) => one.key !== key),
                    }))
                  }
                >
                  Delete this condition
                </Button>
              )}
            </li>
          );
        })}
      </List>
    </Section>
  );
}
