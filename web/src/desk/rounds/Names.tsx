/** Who is behind a number, by name: what was tried so far, how they stand, what comes next. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Ledger } from "../../ui/Ledger";
import { Mono, Quiet } from "../../ui/text";
import { usePlaceId } from "../shell/Place";
import { Loaded } from "../shell/states";
import { when } from "../when";
import { namesQuery, type Named, type RoundOut, type Standing, type Which } from "./data";
import { PersonSheet } from "./PersonSheet";
import { STANDINGS, STANDS, stratumName, triedSoFar } from "./words";

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  margin-block: 24px 8px;
  h3 {
    font-size: 16px;
    margin-inline-end: 6px;
  }
`;

const Person = styled.button`
  border: 0;
  background: none;
  padding: 0;
  min-height: 24px;
  font-weight: 600;
  color: var(--accent);
  text-align: start;
  cursor: pointer;
  &:hover {
    text-decoration: underline;
  }
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: 1px;
  }
`;

const nameOfStep = (one: RoundOut, key: string): string =>
  one.round.steps?.find((step) => step.key === key)?.name ?? "";

function nextOf(one: RoundOut, person: Named): string {
  if (!person.next_step) return "";
  const name = nameOfStep(one, person.next_step);
  if (!person.next_at) return name;
  const up = new Date(person.next_at).getTime() <= Date.now();
  return `${name}, ${up ? "up now" : when(person.next_at)}`;
}

interface RowProps {
  one: RoundOut;
  person: Named;
  strata: boolean;
  onOpen: () => void;
}

function Row({ one, person, strata, onOpen }: RowProps) {
  return (
    <tr>
      <td>
        <Person onClick={onOpen}>{person.name || "No longer a contact"}</Person>
      </td>
      {strata ? <td>{stratumName(person.stratum)}</td> : null}
      <td>{triedSoFar(person.tried) || <Quiet>nothing</Quiet>}</td>
      <td>
        <Mono>{person.code}</Mono> {person.code_name}
        {person.by_hand ? <Quiet title={person.by_hand}> (by hand)</Quiet> : null}
      </td>
      <td>{nextOf(one, person)}</td>
    </tr>
  );
}

interface NamesProps {
  one: RoundOut;
  fieldLabel: string;
  which: Which;
  onWhich: (which: Which) => void;
}

/** Those who are meant, in words. */
function Meant({ one, which, onWhich }: Omit<NamesProps, "fieldLabel">) {
  const options = [
    { code: "", label: "Everybody" },
    ...STANDINGS.map((code) => ({ code, label: STANDS[code] })),
  ];
  const about = which.ahead
    ? `to whom ${nameOfStep(one, which.ahead)} will go, as things stand`
    : which.after_step
      ? `as they stood after ${nameOfStep(one, which.after_step)}`
      : which.stratum === undefined
        ? ""
        : `in ${stratumName(which.stratum)}`;
  return (
    <Head>
      <h3>Who</h3>
      <Choose
        name="How they stand"
        value={which.stands ?? ""}
        options={options}
        onChange={(stands) => {
          const rest = { ...which };
          delete rest.stands;
          onWhich(stands ? { ...rest, stands: stands as Standing } : rest);
        }}
      />
      {about ? (
        <>
          <span>{about}</span>
          <Button
            weight="word"
            onPress={() => onWhich(which.stands ? { stands: which.stands } : {})}
          >
            As they stand now
          </Button>
        </>
      ) : null}
    </Head>
  );
}

export function Names({ one, fieldLabel, which, onWhich }: NamesProps) {
  const id = usePlaceId();
  const query = useInfiniteQuery(namesQuery(id, one.id, which));
  const [open, setOpen] = useState("");
  const strata = Boolean(one.round.draw?.by);
  const people = query.data?.pages.flatMap((page) => page.people) ?? [];
  return (
    <section aria-label="Who, by name">
      <Meant one={one} which={which} onWhich={onWhich} />
      <Loaded query={query}>
        {() =>
          people.length ? (
            <Ledger name="People of the round">
              <thead>
                <tr>
                  <th scope="col">Name</th>
                  {strata ? <th scope="col">{fieldLabel}</th> : null}
                  <th scope="col">Tried so far</th>
                  <th scope="col">Stands as</th>
                  <th scope="col">Next</th>
                </tr>
              </thead>
              <tbody>
                {people.map((person) => (
                  <Row
                    key={person.contact_id}
                    one={one}
                    person={person}
                    strata={strata}
                    onOpen={() => setOpen(person.contact_id)}
                  />
                ))}
              </tbody>
            </Ledger>
          ) : (
            <p>Nobody.</p>
          )
        }
      </Loaded>
      {query.hasNextPage ? (
        <Button isDisabled={query.isFetchingNextPage} onPress={() => void query.fetchNextPage()}>
          More
        </Button>
      ) : null}
      {open ? <PersonSheet one={one} contactId={open} onClose={() => setOpen("")} /> : null}
    </section>
  );
}
