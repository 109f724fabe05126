/** What is kept of one person, by their mail address: shown, taken out as one file, erased. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Lines } from "../../ui/Lines";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count, entryNumber } from "../document";
import { DeleteSheet } from "../shell/DeleteSheet";
import { RoomHead } from "../shell/Office";
import { Loaded } from "../shell/states";
import { useDoing } from "../useDoing";

const Search = styled.form`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 560px;
  > :first-child {
    flex: 1 1 240px;
  }
`;

const Found = styled.div`
  margin-top: 20px;
  display: grid;
  gap: 16px;
  max-width: 760px;
  overflow-wrap: anywhere;
  h2 {
    font-size: 17px;
  }
`;

const Deeds = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
`;

type Person = Schema<"OnePersonOut">;
type Erased = Schema<"ErasedOut">;

const person = (email: string) => ({
  queryKey: ["person", email],
  queryFn: () => got(client.GET("/api/person", { params: { query: { email } } })),
  retry: false,
  gcTime: 0,
});

/** How many of each, in words; nothing where there is nothing. */
function summed(of: Erased): string {
  const said = [
    of.contacts && count(of.contacts, "contact"),
    of.entries && count(of.entries, "entry"),
    of.rows && count(of.rows, "row"),
    of.letters && count(of.letters, "letter"),
    of.notices && count(of.notices, "notice"),
    of.waiting && count(of.waiting, "place on waiting lists"),
  ];
  return said.filter(Boolean).join(", ");
}

function Erasing({ found, onErased }: { found: Person; onErased: (gone: Erased) => void }) {
  const [asking, setAsking] = useState(false);
  const erasing = useDoing(
    (typed: string) =>
      got(client.POST("/api/person/erased", { body: { email: found.email, typed } })),
    [["person"], ["contacts"], ["entries"]],
    onErased,
  );
  return (
    <>
      <Button onPress={() => setAsking(true)}>Erase all of it…</Button>
      <DeleteSheet
        title="Erase what is kept of one person"
        open={asking}
        word={found.email}
        what="it"
        error={erasing.error?.message}
        isPending={erasing.isPending}
        onClose={() => setAsking(false)}
        onDelete={(typed) => erasing.mutate(typed)}
      >
        Contacts, entries with their files, rows of registers, letters and places on waiting lists
        are gone for good, and what is restricted cannot be read in any backup either. That nobody
        may write to the address stays. Take the file out first if they asked for it.
      </DeleteSheet>
    </>
  );
}

function Kept({ found, onErased }: { found: Person; onErased: (gone: Erased) => void }) {
  const all = {
    ...found,
    contacts: found.contacts.length,
    entries: found.entries.length,
    rows: found.rows.length,
  };
  const whole = summed(all);
  const file = `/api/person/file?${new URLSearchParams({ email: found.email }).toString()}`;
  if (!whole) return <p>Nothing is kept of {found.email}.</p>;
  return (
    <Found>
      <p>
        Of <b>{found.email}</b> there {whole.startsWith("1 ") ? "is" : "are"} {whole}.
        {found.out ? " They asked not to be written to." : ""}
      </p>
      <Deeds>
        <a href={file} download="person.json">
          Take it out as one file
        </a>
        <Erasing found={found} onErased={onErased} />
      </Deeds>
      {found.contacts.length ? (
        <section>
          <h2>Contacts</h2>
          <Lines>
            {found.contacts.map(({ id, name }) => (
              <li key={id}>
                <Link to="/contacts" search={{ contact: id }}>
                  {name}
                </Link>
              </li>
            ))}
          </Lines>
        </section>
      ) : null}
      {found.entries.length ? (
        <section>
          <h2>Entries</h2>
          <Lines>
            {found.entries.map((one) => (
              <li key={one.entry_id}>
                <Link
                  to="/q/$id/entries"
                  params={{ id: one.questionnaire_id }}
                  search={{ entry: one.entry_id }}
                >
                  {one.title} {entryNumber(one.number)}
                </Link>
              </li>
            ))}
          </Lines>
        </section>
      ) : null}
      {found.rows.length ? (
        <section>
          <h2>Rows of registers</h2>
          <Lines>
            {found.rows.map(({ register_id, name, row }) => (
              <li key={row}>
                <Link
                  to="/registers/$registerId"
                  params={{ registerId: register_id }}
                  search={{ row }}
                >
                  {name}, row {row}
                </Link>
              </li>
            ))}
          </Lines>
        </section>
      ) : null}
      <Quiet>
        {found.unsearched
          ? `Restricted answers were searched where you have clearance. ${found.unsearched === 1 ? "One questionnaire has" : `${found.unsearched} questionnaires have`} some that you have none for: an entry that says the address there alone is not among these.`
          : "Restricted answers were searched too."}
      </Quiet>
    </Found>
  );
}

export function OnePerson() {
  const { email = "" } = useSearch({ from: "/office/contacts/person" });
  const navigate = useNavigate();
  const [written, setWritten] = useState(email);
  const [gone, setGone] = useState<Erased | null>(null);
  const query = useQuery({ ...person(email), enabled: email !== "" });
  return (
    <>
      <RoomHead>
        <h1>One person&rsquo;s data</h1>
        <Quiet>over all questionnaires, registers, lists and letters</Quiet>
      </RoomHead>
      <Search
        onSubmit={(event) => {
          event.preventDefault();
          setGone(null);
          void navigate({ to: "/contacts/person", search: { email: written.trim() } });
        }}
      >
        <Field label="Mail address" value={written} onChange={setWritten} />
        <Button type="submit" weight="main" isDisabled={!written.trim()}>
          Find
        </Button>
      </Search>
      <div role="status">
        {gone ? (
          <Strip>Erased: {summed(gone)}. The trail has it, without the address.</Strip>
        ) : null}
      </div>
      {email && !gone ? (
        <Loaded query={query}>{(found) => <Kept found={found} onErased={setGone} />}</Loaded>
      ) : null}
    </>
  );
}
