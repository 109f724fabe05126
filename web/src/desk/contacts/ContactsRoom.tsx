/** Contacts: whom the office reaches out to, on which lists, and what is known of them. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count } from "../document";
import { useMe } from "../shell/me";
import { RoomHead } from "../shell/Office";
import { Broken, Empty, Waiting } from "../shell/states";
import { useDoing } from "../useDoing";
import { useOlder } from "../useOlder";
import { useRested } from "../useRested";
import { Chosen } from "./Chosen";
import { ContactsLedger } from "./ContactsLedger";
import {
  addContact,
  BUILT_IN,
  contactFields,
  contactLists,
  contactPage,
  CONTACTS,
  exportAddress,
  LISTS,
  type ContactField,
  type ContactList,
} from "./data";
import { FieldsSheet } from "./FieldsSheet";
import { ListHead, Lists } from "./Lists";
import { OneContact } from "./OneContact";

const Whole = styled.div<{ $open: boolean }>`
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr) ${({ $open }) => ($open ? "280px" : "")};
  gap: 24px;
  align-items: start;
  @media (max-width: 1100px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Main = styled.div`
  display: grid;
  gap: 12px;
  min-width: 0;
`;

/** For how long nothing was done with contacts, in days. */
const UNUSED = [
  { code: "0", label: "Used at any time" },
  { code: "365", label: "Not used for a year" },
  { code: "730", label: "Not used for two years" },
  { code: "1825", label: "Not used for five years" },
];

interface FoundProps {
  words: string;
  unused: number;
  fields: readonly ContactField[];
  lists: readonly ContactList[];
  list: ContactList | undefined;
  open: string;
  onOpen: (id: string) => void;
}

function Found({ words, unused, fields, lists, list, open, onOpen }: FoundProps) {
  const wanted = { words, unused, list: list?.id ?? "" };
  const query = useOlder<Awaited<ReturnType<typeof contactPage>>, string>(
    [...CONTACTS, wanted],
    (after) => contactPage(wanted, after),
    (page) => page.contacts.at(-1)?.id,
  );
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  if (query.isError)
    return <Broken error={query.error} onRetry={() => void query.refetch()} stands="part" />;
  if (!query.data) return <Waiting />;
  const contacts = query.data.pages.flatMap((page) => page.contacts);
  const total = query.data.pages[0]?.count ?? 0;
  if (!contacts.length) {
    return (
      <Empty title={words || unused ? "Nobody is found" : "Nobody is here yet"}>
        <p>
          {unused
            ? "With everybody here something was done since: they came, were asked, or answered."
            : words
              ? "No contact has all these words in what is known of them."
              : "Bring contacts in from a table, or add them one by one."}
        </p>
      </Empty>
    );
  }
  const picked = contacts.filter(({ id }) => chosen.has(id));
  return (
    <>
      <Quiet role="status">{count(total, "contact")}</Quiet>
      {picked.length ? (
        <Chosen
          key={picked.map(({ id }) => id).join()}
          contacts={picked}
          fields={fields}
          lists={lists}
          list={list}
          onDone={() => setChosen(new Set())}
        />
      ) : null}
      <ContactsLedger
        contacts={contacts}
        fields={fields}
        chosen={chosen}
        open={open}
        onChosen={setChosen}
        onOpen={onOpen}
      />
      {query.hasNextPage ? (
        <div>
          <Button onPress={() => void query.fetchNextPage()}>Show more</Button>
        </div>
      ) : null}
    </>
  );
}

/** A new contact, by its name or address; the rest is typed in the ledger. */
function Adding({ list, onClose }: { list: ContactList | undefined; onClose: () => void }) {
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const adding = useDoing(
    () => addContact({ values: { name, email }, ...(list ? { list_id: list.id } : {}) }),
    [CONTACTS, LISTS],
    onClose,
  );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        adding.mutate();
      }}
    >
      <Actions style={{ justifyContent: "flex-start", alignItems: "flex-end" }}>
        <Field label="Name" value={name} maxLength={500} autoFocus onChange={setName} />
        <Field label="Mail address" value={email} maxLength={254} onChange={setEmail} />
        <Button weight="main" type="submit">
          {list ? `Add to ${list.name}` : "Add"}
        </Button>
        <Button onPress={onClose}>Cancel</Button>
      </Actions>
      {adding.error ? <Strip tone="wrong">{adding.error.message}</Strip> : null}
    </form>
  );
}

export function ContactsRoom() {
  const { list: listId = "", contact = "" } = useSearch({ from: "/office/contacts" });
  const runs = useMe().rights.includes("run");
  const go = useNavigate();
  const lists = useQuery(contactLists).data ?? [];
  const own = useQuery(contactFields).data ?? [];
  const [typed, setTyped] = useState("");
  const words = useRested(typed, 250);
  const [unused, setUnused] = useState("0");
  const [doing, setDoing] = useState<"" | "add" | "fields">("");
  const list = lists.find(({ id }) => id === listId);
  const fields = [...BUILT_IN, ...own];
  const open = (id: string) =>
    void go({
      to: "/contacts",
      search: { ...(listId ? { list: listId } : {}), ...(id ? { contact: id } : {}) },
    });
  return (
    <>
      <RoomHead>
        <h1>{list ? list.name : "Contacts"}</h1>
        <Quiet>Whom the office reaches out to</Quiet>
        <Actions style={{ alignItems: "center" }}>
          {list ? <ListHead list={list} /> : null}
          <Button onPress={() => setDoing("fields")}>Fields</Button>
          <Button onPress={() => setDoing("add")}>Add a contact</Button>
          {runs ? <Link to="/contacts/person">One person&rsquo;s data</Link> : null}
          <Link to="/contacts/no-letters">Who gets no letters</Link>
          <Link to="/contacts/import" search={listId ? { list: listId } : {}}>
            Import a table
          </Link>
        </Actions>
      </RoomHead>
      <Whole $open={Boolean(contact)}>
        <Lists lists={lists} />
        <Main>
          {doing === "add" ? <Adding list={list} onClose={() => setDoing("")} /> : null}
          <Actions style={{ justifyContent: "flex-start", alignItems: "flex-end" }}>
            <Field label="Search" type="search" value={typed} maxLength={200} onChange={setTyped} />
            <Choose name="Used last" value={unused} options={UNUSED} onChange={setUnused} />
            <a href={exportAddress(words, listId)} download>
              Export these as CSV
            </a>
          </Actions>
          <Found
            key={`${listId} ${words} ${unused}`}
            words={words}
            unused={Number(unused)}
            fields={fields}
            lists={lists}
            list={list}
            open={contact}
            onOpen={open}
          />
        </Main>
        {contact ? <OneContact id={contact} onClose={() => open("")} /> : null}
      </Whole>
      {doing === "fields" ? <FieldsSheet fields={own} onClose={() => setDoing("")} /> : null}
    </>
  );
}
