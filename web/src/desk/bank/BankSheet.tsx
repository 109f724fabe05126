/** The question bank: questions to add, as a copy or linked. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count, inside, KIND_NAMES, optionsOf, say, type Doc, type Item } from "../document";
import { Loaded } from "../shell/states";
import { bank, fromBank, type Banked } from "./bank";

const Rows = styled.ul`
  max-height: 52vh;
  overflow: auto;
  position: relative;
  border-bottom: 1px solid var(--line);
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: center;
    padding: 9px 0;
    border-top: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  li > div {
    flex: 1 1 240px;
  }
  small {
    display: block;
    font-size: 13px;
    color: var(--ink-2);
  }
`;

/** What a question asks for, in few words. */
function about(item: Item): string {
  const options = optionsOf(item).length;
  const within = inside(item).length;
  const more = options ? count(options, "option") : within ? count(within, "question") : "";
  return [KIND_NAMES[item.kind], more].filter(Boolean).join(", ");
}

interface BankSheetProps {
  doc: Doc;
  onAdd: (item: Item) => void;
  onClose: () => void;
}

export function BankSheet({ doc, onAdd, onClose }: BankSheetProps) {
  const queries = useQueryClient();
  const query = useQuery(bank);
  const [sought, setSought] = useState("");
  const removing = useMutation({
    mutationFn: (id: string) => got(client.DELETE("/api/bank/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries(bank),
  });
  const words = ({ item }: Banked) =>
    say(doc, item.text) || Object.values(item.text)[0] || item.key;
  const fits = (one: Banked) => words(one).toLowerCase().includes(sought.trim().toLowerCase());
  return (
    <Sheet title="Question bank" open onClose={onClose} width="wide">
      {removing.error ? <Strip tone="wrong">{removing.error.message}</Strip> : null}
      <Loaded query={query}>
        {(all) =>
          all.length ? (
            <>
              <Field label="Find" value={sought} onChange={setSought} autoFocus />
              <Rows aria-label="Questions in the bank">
                {all.filter(fits).map((one) => (
                  <li key={one.id}>
                    <div>
                      {words(one)}
                      <small>{about(one.item as Item)}</small>
                    </div>
                    <Button
                      aria-label={`Add linked: ${words(one)}`}
                      onPress={() => onAdd(fromBank(doc, one, true))}
                    >
                      Add linked
                    </Button>
                    <Button
                      aria-label={`Add a copy: ${words(one)}`}
                      onPress={() => onAdd(fromBank(doc, one, false))}
                    >
                      Add a copy
                    </Button>
                    <Button
                      weight="word"
                      aria-label={`Remove from the bank: ${words(one)}`}
                      onPress={() => removing.mutate(one.id)}
                    >
                      Remove
                    </Button>
                  </li>
                ))}
              </Rows>
              <Quiet>
                A linked question says when the bank has a newer wording, and takes it when you say
                so. Taken out of the bank, a question stays in the questionnaires that use it.
              </Quiet>
            </>
          ) : (
            <p>
              Nothing is in the bank yet. Select a question and choose Put into the bank on its
              bench.
            </p>
          )
        }
      </Loaded>
      <Actions>
        <Button onPress={onClose}>Close</Button>
      </Actions>
    </Sheet>
  );
}
