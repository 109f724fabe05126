/** Earlier editions: what each changed, its questions, and bringing one back as the draft. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import { Actions, Sheet } from "../../ui/Sheet";
import { Quiet } from "../../ui/text";
import { editionAt, editions } from "../data";
import type { Doc } from "../document";
import { ScriptToRead } from "../reading/ScriptToRead";
import { Loaded } from "../shell/states";
import { whenAmid } from "../when";
import { Changes } from "./Changes";

const Script = styled.div`
  max-height: 40vh;
  overflow: auto;
  position: relative;
  h3 {
    font-size: 15px;
    padding-top: 10px;
  }
  li {
    padding: 4px 0;
    border-bottom: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
`;

const Heading = styled.h3`
  font-size: 15px;
`;

interface EditionsSheetProps {
  id: string;
  onRestore: ((document: Doc) => void) | null;
  onClose: () => void;
}

export function EditionsSheet({ id, onRestore, onClose }: EditionsSheetProps) {
  const query = useQuery(editions(id));
  const [chosen, setChosen] = useState<number | null>(null);
  return (
    <Sheet title="Editions" open onClose={onClose} width="wide">
      <Loaded query={query}>
        {(found) => {
          const number = chosen ?? found[0]?.number;
          if (number === undefined) return <Quiet as="p">Nothing has been published yet.</Quiet>;
          return (
            <>
              <Picker
                label="Edition"
                value={String(number)}
                options={found.map((one) => ({
                  code: String(one.number),
                  label: `Edition ${one.number}, ${whenAmid(one.at)}, by ${one.by}`,
                }))}
                onChange={(code) => setChosen(Number(code))}
              />
              <Heading>What it changed</Heading>
              <Changes key={number} id={id} number={number} />
              <Edition key={`script ${number}`} id={id} number={number} onRestore={onRestore} />
            </>
          );
        }}
      </Loaded>
      <Actions>
        <Button onPress={onClose}>Close</Button>
      </Actions>
    </Sheet>
  );
}

function Edition({
  id,
  number,
  onRestore,
}: Pick<EditionsSheetProps, "id" | "onRestore"> & { number: number }) {
  const query = useQuery(editionAt(id, number));
  return (
    <Loaded query={query}>
      {({ document }) => (
        <>
          <Heading>What it asks</Heading>
          <Script role="region" aria-label="What it asks" tabIndex={0}>
            <ScriptToRead doc={document} level="h3" />
          </Script>
          {onRestore ? (
            <Actions>
              <Button onPress={() => onRestore(document)}>
                Restore edition {number} as the draft
              </Button>
            </Actions>
          ) : null}
        </>
      )}
    </Loaded>
  );
}
