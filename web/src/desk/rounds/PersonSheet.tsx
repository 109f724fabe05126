/** One of those who are asked: what happened, and the disposition by hand. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Lines } from "../../ui/Lines";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Mono, Quiet } from "../../ui/text";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { Loaded } from "../shell/states";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { when } from "../when";
import { codePerson, dispositions, personQuery, ROUNDS, type Named, type RoundOut } from "./data";
import { cameOf, WAYS } from "./words";

export function History({ one, person }: { one: RoundOut | null; person: Named }) {
  if (!person.tried.length) return <p>Nothing was tried yet.</p>;
  const nameOf = (key: string) => one?.round.steps?.find((step) => step.key === key)?.name ?? "";
  return (
    <Lines>
      {person.tried.map((tried, number) => (
        <li key={number}>
          <b>{nameOf(tried.step) || WAYS[tried.way]}</b> {cameOf(tried)}, {when(tried.at)}
          {tried.note ? <Quiet as="p">{tried.note}</Quiet> : null}
        </li>
      ))}
    </Lines>
  );
}

function Coding({ one, person }: { one: RoundOut; person: Named }) {
  const id = usePlaceId();
  const codes = useQuery(dispositions).data ?? [];
  const [code, setCode] = useState(person.by_hand ? person.code : "");
  const [why, setWhy] = useState(person.by_hand);
  const coding = useDoing(
    () => codePerson(id, one.id, person.contact_id, { code, why }),
    [ROUNDS(id)],
  );
  const failed = otherFault(coding.error, ["why"]);
  return (
    <>
      <p>
        <Choose
          name="Disposition"
          value={code}
          options={[
            { code: "", label: "By what happened" },
            ...codes.map((one_) => ({ code: one_.code, label: `${one_.code} ${one_.name}` })),
          ]}
          onChange={setCode}
        />
      </p>
      {code ? (
        <Field
          label="Why"
          value={why}
          maxLength={500}
          error={faultAt(coding.error, "why")}
          onChange={setWhy}
        />
      ) : null}
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      {coding.isSuccess ? <Strip tone="calm">Kept.</Strip> : null}
      <Actions>
        <Button weight="main" isDisabled={coding.isPending} onPress={() => coding.mutate()}>
          Set it
        </Button>
      </Actions>
    </>
  );
}

interface PersonProps {
  one: RoundOut;
  contactId: string;
  onClose: () => void;
}

export function PersonSheet({ one, contactId, onClose }: PersonProps) {
  const query = useQuery(personQuery(usePlaceId(), one.id, contactId));
  const writes = useRight("write");
  return (
    <Sheet title={query.data?.name ?? "One moment"} open onClose={onClose}>
      <Loaded query={query}>
        {(person) => (
          <>
            <p>
              <Mono>{person.code}</Mono> {person.code_name}
              {person.by_hand ? `, set by hand: ${person.by_hand}` : ""}
            </p>
            <h3>What happened</h3>
            <History one={one} person={person} />
            {person.name ? (
              <Link to="/contacts" search={{ contact: contactId }}>
                The contact
              </Link>
            ) : null}
            {writes ? (
              <>
                <h3>Disposition</h3>
                <Coding key={`${person.code} ${person.by_hand}`} one={one} person={person} />
              </>
            ) : null}
          </>
        )}
      </Loaded>
      <Actions>
        <Button onPress={onClose}>Close</Button>
      </Actions>
    </Sheet>
  );
}
