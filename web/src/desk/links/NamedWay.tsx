/** A named link: what it brings, what came by it, shut and opened again; and making a new one. */
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count, type Doc } from "../document";
import { usePlaceId } from "../shell/Place";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { onDay, whenAmid } from "../when";
import { AddressBox } from "./AddressBox";
import { addNamed, putNamed, removeNamed, ways } from "./data";
import { given, said, slotsOf, verdict, type Values } from "./values";
import { ValuesForm } from "./ValuesForm";
import type { Named } from "./WaysList";

interface NamedProps {
  doc: Doc;
  link: Named;
  mayWrite: boolean;
}

function Change({ link }: { link: Named }) {
  const id = usePlaceId();
  const go = useNavigate();
  const [name, setName] = useState(link.name);
  const put = useDoing(
    (body: { name: string; shut: boolean }) => putNamed(id, link.id, body),
    [ways(id).queryKey],
  );
  const removing = useDoing(
    () => removeNamed(id, link.id),
    [ways(id).queryKey],
    () => void go({ to: "/q/$id/links", params: { id }, search: {} }),
  );
  const failed = otherFault(put.error ?? removing.error, ["name"]);
  return (
    <>
      <Field
        label="Name"
        value={name}
        maxLength={120}
        error={faultAt(put.error, "name")}
        onChange={setName}
        onBlur={() => {
          if (name.trim() !== link.name) put.mutate({ name, shut: Boolean(link.shut) });
        }}
      />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button onPress={() => put.mutate({ name: link.name, shut: !link.shut })}>
          {link.shut ? "Open this link again" : "Shut this link"}
        </Button>
        {link.entries ? null : <Button onPress={() => removing.mutate()}>Delete</Button>}
      </Actions>
    </>
  );
}

export function NamedWay({ doc, link, mayWrite }: NamedProps) {
  const slots = slotsOf(doc, true);
  const values: Values = link.values.map(({ name, text }) => [name, text] as const);
  return (
    <>
      <h2>{link.name}</h2>
      {link.shut ? (
        <Strip>
          Shut on {onDay(link.shut)}. Who opens it reads that it is not in use any more; who had
          begun can send their answers for a day.
        </Strip>
      ) : null}
      <AddressBox address={link.address} tried={values} />
      <p>
        {count(link.entries, "entry")} came by it
        {link.latest ? `, the last one ${whenAmid(link.latest)}` : ""}.
      </p>
      {values.length ? (
        <section>
          <h3>What it brings</h3>
          <Lines>
            {values.map(([name, text]) => {
              const slot = slots.find((one) => one.name === name);
              return (
                <li key={name}>
                  <b>{slot?.label ?? name}</b> {said(slots, [name, text])}
                  <Quiet>
                    {slot
                      ? verdict(doc, slot, true)
                      : "The questionnaire does not have this any more."}
                  </Quiet>
                </li>
              );
            })}
          </Lines>
        </section>
      ) : (
        <p>It brings nothing but its name.</p>
      )}
      {mayWrite ? <Change key={link.id} link={link} /> : null}
    </>
  );
}

export function NewNamed({ doc }: { doc: Doc }) {
  const id = usePlaceId();
  const go = useNavigate();
  const [name, setName] = useState("");
  const [values, setValues] = useState<Values>([]);
  const adding = useDoing(
    () => addNamed(id, { name, values: given(values) }),
    [ways(id).queryKey],
    (way) => void go({ to: "/q/$id/links", params: { id }, search: { way } }),
  );
  const slots = slotsOf(doc, true);
  const shown = ["name", ...slots.map((slot) => slot.name)];
  const failed = otherFault(adding.error, shown);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        adding.mutate();
      }}
      style={{ display: "grid", gap: 16 }}
    >
      <h2>A named link</h2>
      <p>
        It is counted and shut by itself. What it brings is kept with us: neither the values nor
        those of other links stand in its address.
      </p>
      <Field
        label="Name"
        help="What people come by, such as the poster in the village hall. Visitors never read it."
        value={name}
        maxLength={120}
        error={faultAt(adding.error, "name")}
        onChange={setName}
      />
      <ValuesForm
        doc={doc}
        slots={slots}
        stored
        values={values}
        onChange={setValues}
        errorAt={(at) => faultAt(adding.error, at)}
      />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" type="submit" isDisabled={adding.isPending}>
          Make the link
        </Button>
      </Actions>
    </form>
  );
}
