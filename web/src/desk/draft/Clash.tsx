/** Two people changed the same thing: both versions side by side, and a choice for each. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import { Actions, Sheet } from "../../ui/Sheet";
import { Quiet } from "../../ui/text";
import { count, type Doc } from "../document";
import { clashName, clashValue } from "./clashWords";
import { clashes } from "./draftState";
import type { Clashing, Whose } from "./merge/parts";
import type { Draft } from "./useDraft";

const Words = styled.p`
  color: var(--ink-2);
`;

const Pick = styled.label`
  display: flex;
  gap: 8px;
  align-items: baseline;
  white-space: normal;
  overflow-wrap: anywhere;
  cursor: pointer;
  input {
    accent-color: var(--accent);
  }
`;

type Choices = Readonly<Record<string, Whose>>;

interface RowProps {
  doc: Doc;
  clash: Clashing;
  chosen: Whose;
  onChoose: (whose: Whose) => void;
}

function Row({ doc, clash, chosen, onChoose }: RowProps) {
  const name = clashName(doc, clash.path);
  return (
    <tr>
      <td>{name}</td>
      {(["mine", "theirs"] as const).map((whose) => (
        <td key={whose}>
          <Pick>
            <input
              type="radio"
              name={clash.path}
              aria-label={`${whose === "mine" ? "Yours" : "Theirs"}: ${name}`}
              checked={chosen === whose}
              onChange={() => onChoose(whose)}
            />
            {clashValue(doc, clash, clash[whose]) ?? <Quiet>deleted</Quiet>}
          </Pick>
        </td>
      ))}
    </tr>
  );
}

export function Clash({ draft }: { draft: Draft }) {
  const [choices, setChoices] = useState<Choices>({});
  if (!draft.theirs) return null;
  const found = clashes(draft);
  const resolve = (of: (path: string) => Whose) => {
    draft.join({ kind: "resolve", choose: of });
    setChoices({});
  };
  return (
    <Sheet title="Somebody changed the same thing" open width="wide">
      <Words>
        Everything else of both is brought together already.{" "}
        {found.length === 1 ? "One thing" : count(found.length, "thing")} cannot be: choose which
        version goes on. The other one stays within reach of undo.
      </Words>
      <Ledger name="Clashes">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">Yours</th>
            <th scope="col">Theirs</th>
          </tr>
        </thead>
        <tbody>
          {found.map((clash) => (
            <Row
              key={clash.path}
              doc={draft.doc}
              clash={clash}
              chosen={choices[clash.path] ?? "mine"}
              onChoose={(whose) => setChoices((now) => ({ ...now, [clash.path]: whose }))}
            />
          ))}
        </tbody>
      </Ledger>
      <Actions>
        <Button onPress={() => resolve(() => "theirs")}>Take theirs</Button>
        <Button onPress={() => resolve(() => "mine")}>Keep mine</Button>
        <Button weight="main" onPress={() => resolve((path) => choices[path] ?? "mine")}>
          Go on with these
        </Button>
      </Actions>
    </Sheet>
  );
}
