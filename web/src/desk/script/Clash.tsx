/** Two people saved the same draft: both versions side by side, and a choice. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import { Actions, Sheet } from "../../ui/Sheet";
import { Quiet } from "../../ui/text";
import { everyItem, say, type Doc } from "../document";
import type { Draft } from "./useDraft";

const Words = styled.p`
  color: var(--ink-2);
`;

interface Difference {
  name: string;
  mine: string | null;
  theirs: string | null;
}

/** Where two versions differ, item by item and page by page, in their words. */
function differences(mine: Doc, theirs: Doc): Difference[] {
  const parts = (doc: Doc) =>
    new Map<string, { words: string; whole: string }>([
      ...everyItem(doc).map(
        (item) => [item.key, { words: say(doc, item.text), whole: JSON.stringify(item) }] as const,
      ),
      ...[...doc.pages, ...doc.finishes].map(({ ...part }) => {
        const { title, key } = part;
        const rest = JSON.stringify({ ...part, items: undefined });
        return [`${key} (heading)`, { words: say(doc, title), whole: rest }] as const;
      }),
    ]);
  const [left, right] = [parts(mine), parts(theirs)];
  const names = [...new Set([...left.keys(), ...right.keys()])];
  return names
    .filter((name) => left.get(name)?.whole !== right.get(name)?.whole)
    .map((name) => ({
      name,
      mine: left.get(name)?.words ?? null,
      theirs: right.get(name)?.words ?? null,
    }));
}

export function Clash({ draft }: { draft: Draft }) {
  const { doc, theirs, send } = draft;
  if (!theirs) return null;
  const found = differences(doc, theirs.document);
  return (
    <Sheet title="Somebody saved a newer version" open wide>
      <Words>
        Your changes are not saved yet. These parts differ; choose which version goes on. The other
        one stays within reach of undo.
      </Words>
      <Ledger name="Differences">
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col">Yours</th>
            <th scope="col">Theirs</th>
          </tr>
        </thead>
        <tbody>
          {found.map(({ name, mine, theirs: other }) => (
            <tr key={name}>
              <td>{name}</td>
              <td>{mine ?? <Quiet>not there</Quiet>}</td>
              <td>{other ?? <Quiet>not there</Quiet>}</td>
            </tr>
          ))}
        </tbody>
      </Ledger>
      <Actions>
        <Button onPress={() => send({ kind: "settle", keep: "theirs" })}>Take theirs</Button>
        <Button weight="main" onPress={() => send({ kind: "settle", keep: "mine" })}>
          Keep mine
        </Button>
      </Actions>
    </Sheet>
  );
}
