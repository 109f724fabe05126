/** One contact beside the ledger: its lists, what it sent, and whether it may be written to. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { entryNumber } from "../document";
import { Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { onDay } from "../when";
import { CONTACTS, LISTS, setOptedOut, wholeContact } from "./data";

const Part = styled.aside`
  border-inline-start: 3px solid var(--accent);
  padding-inline-start: 16px;
  display: grid;
  gap: 12px;
  align-content: start;
  overflow-wrap: anywhere;
  h2 {
    font-size: 19px;
  }
  h3 {
    font-size: 15px;
  }
`;

function Letters({ contact, outs }: Pick<Schema<"WholeContactOut">, "contact" | "outs">) {
  const setting = useDoing((out: boolean) => setOptedOut(contact.id, out), [CONTACTS, LISTS]);
  return (
    <section>
      <h3>Letters</h3>
      {contact.opted_out ? (
        <p>
          Opted out on {onDay(contact.opted_out)}: no letter goes to this address, whatever list it
          is on.
        </p>
      ) : (
        <p>May be written to.</p>
      )}
      <Button weight="word" onPress={() => setting.mutate(!contact.opted_out)}>
        {contact.opted_out ? "They asked to be written to again" : "They asked for no more letters"}
      </Button>
      {outs.map((one) => (
        <p key={one.told}>
          No more about {one.told}, since {onDay(one.at)}.
        </p>
      ))}
      {contact.bounced ? (
        <p>
          Letters come back from this address since {onDay(contact.bounced)}: none goes there until
          the contact has another.
        </p>
      ) : null}
      {setting.error ? <Strip tone="wrong">{setting.error.message}</Strip> : null}
    </section>
  );
}

export function OneContact({ id, onClose }: { id: string; onClose: () => void }) {
  const query = useQuery(wholeContact(id));
  return (
    <Loaded query={query}>
      {({ contact, lists, consents, entries, outs }) => (
        <Part aria-label={contact.called}>
          <h2>{contact.called}</h2>
          {contact.added ? (
            <Quiet as="p">
              Came on {onDay(contact.added)}
              {contact.came ? `: ${contact.came}` : ""}
            </Quiet>
          ) : null}
          <Letters contact={contact} outs={outs} />
          <section>
            <h3>On the lists</h3>
            {lists.length ? (
              <Lines>
                {lists.map((list) => (
                  <li key={list.id}>
                    <Link to="/contacts" search={{ list: list.id }}>
                      {list.name}
                    </Link>
                    {consents
                      .filter(({ list_id }) => list_id === list.id)
                      .map((one) => (
                        <Quiet as="p" key={`${one.questionnaire_id} ${one.entry_number}`}>
                          {one.question} <b>{one.answer}</b>: {one.title},{" "}
                          {entryNumber(one.entry_number)}, {onDay(one.given)}
                          {one.confirmed ? `, confirmed by letter ${onDay(one.confirmed)}` : ""}
                        </Quiet>
                      ))}
                  </li>
                ))}
              </Lines>
            ) : (
              <Quiet>On none.</Quiet>
            )}
          </section>
          <section>
            <h3>What came from them</h3>
            {entries.length ? (
              <Lines>
                {entries.map((entry) => (
                  <li key={entry.entry_id}>
                    <Link
                      to="/q/$id/entries"
                      params={{ id: entry.questionnaire_id }}
                      search={{ entry: entry.entry_id }}
                    >
                      {entry.title}, {entryNumber(entry.number)}
                    </Link>
                  </li>
                ))}
              </Lines>
            ) : (
              <Quiet>Nothing yet.</Quiet>
            )}
          </section>
          <div>
            <Button onPress={onClose}>Close</Button>
          </div>
        </Part>
      )}
    </Loaded>
  );
}
