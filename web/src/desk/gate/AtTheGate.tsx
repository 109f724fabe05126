/** At the gate: what a certain visitor would be told at a certain moment, and why. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { GateTag } from "../../ui/Arm";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { everyItem, type Doc } from "../document";
import { useMe } from "../shell/me";
import { staffName } from "../subjects";
import { useRested } from "../useRested";
import { atTheGate, partsOf, REASONS, type Gate } from "./data";
import { valuesOf } from "./values";
import { inZone } from "./when";

const Whole = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 20px 22px;
  display: grid;
  gap: 12px;
  align-content: start;
  min-width: 0;
  h2 {
    font-size: 20px;
  }
`;

const Seen = styled.div`
  border: 1px solid var(--line-2);
  border-radius: 4px;
  background: var(--mist);
  padding: 18px;
  overflow-wrap: anywhere;
  > div {
    background: var(--paper);
    border: 1px solid var(--line);
    border-radius: 4px;
    padding: 16px;
    display: grid;
    gap: 8px;
  }
  b {
    font: 700 19px var(--head);
  }
  p {
    white-space: pre-line;
  }
`;

const Reasons = styled.ol`
  list-style: decimal;
  padding-inline-start: 22px;
  display: grid;
  gap: 4px;
`;

type Supposed = Schema<"SupposedIn">;
type Found = Schema<"AtTheGateOut">;

const VISITORS = [
  { code: "anybody", label: "Anybody with the address" },
  { code: "pass", label: "Somebody with a pass" },
  { code: "contact", label: "A contact, by their pass" },
  { code: "signed_in", label: "Somebody who signed in" },
  { code: "mail", label: "Somebody who confirmed a mail address" },
];

interface Form {
  visitor: string;
  contact: string;
  email: string;
  claim: string;
  moment: string;
  begun: string;
  answered: string;
  given: Readonly<Record<string, string>>;
}

const BLANK: Form = {
  visitor: "anybody",
  contact: "",
  email: "",
  claim: "",
  moment: "",
  begun: "",
  answered: "",
  given: {},
};

/** What an identity provider would say of them. */
function claimsOf({ email, claim }: Form, gate: Gate): Record<string, string> {
  const named = (gate.audience ?? []).find((who) => who.kind === "signed_in");
  const name = named && "claim" in named ? named.claim : "";
  return {
    ...(email ? { email, email_verified: "yes" } : {}),
    ...(name && claim ? { [name]: claim } : {}),
  };
}

function asked(form: Form, gate: Gate): Supposed {
  const given = Object.fromEntries(
    Object.entries(form.given)
      .filter(([, value]) => value !== "")
      .map(([key, value]) => [key, value === "yes" ? true : value === "no" ? false : value]),
  );
  return {
    moment: form.moment || null,
    begun: form.begun || null,
    has_pass: form.visitor === "pass",
    contact: form.visitor === "contact" ? form.contact : "",
    claims: form.visitor === "signed_in" ? claimsOf(form, gate) : null,
    mail: form.visitor === "mail" ? form.email : "",
    answered: form.answered === "" ? null : Number(form.answered),
    given,
  };
}

/** The questions that divide places, which decide what is full. */
function Given({ doc, gate, form, onForm }: PartProps & { doc: Doc }) {
  const { places } = partsOf(gate);
  const keys = new Set(
    places.flatMap(({ by, amount }) => [...(by ?? []), ...(amount ? [amount] : [])]),
  );
  return everyItem(doc)
    .filter(({ key }) => keys.has(key))
    .map((item) => {
      const set = (value: string) => onForm({ given: { ...form.given, [item.key]: value } });
      const options = valuesOf(doc, item.key);
      const value = form.given[item.key] ?? "";
      return options.length ? (
        <Picker
          key={item.key}
          label={staffName(doc, item)}
          options={[{ code: "", label: "Not answered" }, ...options]}
          value={value}
          onChange={set}
        />
      ) : (
        <Field key={item.key} label={staffName(doc, item)} value={value} onChange={set} />
      );
    });
}

interface PartProps {
  gate: Gate;
  form: Form;
  onForm: (part: Partial<Form>) => void;
}

function Who({ gate, form, onForm }: PartProps) {
  const reaches = useMe().rights.includes("reach");
  const visitors = reaches ? VISITORS : VISITORS.filter(({ code }) => code !== "contact");
  const claims = (gate.audience ?? []).some((who) => who.kind === "signed_in" && who.claim);
  return (
    <>
      <Picker
        label="Visitor"
        options={visitors}
        value={form.visitor}
        onChange={(visitor) => onForm({ visitor })}
      />
      {form.visitor === "contact" ? (
        <Field
          label="Mail address or key of the contact"
          value={form.contact}
          onChange={(contact) => onForm({ contact })}
        />
      ) : null}
      {form.visitor === "signed_in" || form.visitor === "mail" ? (
        <Field label="Mail address" value={form.email} onChange={(email) => onForm({ email })} />
      ) : null}
      {form.visitor === "signed_in" && claims ? (
        <Field
          label="What the claim says"
          value={form.claim}
          onChange={(claim) => onForm({ claim })}
        />
      ) : null}
    </>
  );
}

interface AtTheGateProps {
  id: string;
  gate: Gate;
  doc: Doc | null;
  line: Schema<"SummaryOut">;
  zone: string;
  saved: boolean;
}

export function AtTheGate({ id, gate, doc, line, zone, saved }: AtTheGateProps) {
  const [form, setForm] = useState(BLANK);
  const onForm = (part: Partial<Form>) => setForm({ ...form, ...part });
  const rested = JSON.parse(useRested(JSON.stringify(asked(form, gate)), 300)) as Supposed;
  const waits = form.visitor === "contact" && !form.contact.trim();
  const query = useQuery({
    ...atTheGate(id, rested),
    enabled: line.edition !== null && !waits,
    refetchInterval: 5000,
  });
  return (
    <Whole aria-label="At the gate">
      <h2>At the gate</h2>
      <Quiet>What would this visitor see?</Quiet>
      <Who gate={gate} form={form} onForm={onForm} />
      <Field
        label="Moment"
        help="Now, where it is left empty"
        type="datetime-local"
        value={form.moment}
        onChange={(moment) => onForm({ moment })}
      />
      <Field
        label="Began to answer"
        help="Not yet, where it is left empty"
        type="datetime-local"
        value={form.begun}
        onChange={(begun) => onForm({ begun })}
      />
      {gate.per_person ? (
        <Field
          label="Has answered so many times lately"
          type="number"
          narrow
          value={form.answered}
          onChange={(answered) => onForm({ answered })}
        />
      ) : null}
      {doc ? <Given doc={doc} gate={gate} form={form} onForm={onForm} /> : null}
      {line.edition === null ? <p>Nothing is published yet: nobody can come.</p> : null}
      {query.error ? <Strip tone="wrong">{query.error.message}</Strip> : null}
      {query.data ? <Told found={query.data} line={line} zone={zone} /> : null}
      {saved ? null : <Quiet>By the gate as it was saved last.</Quiet>}
      {line.edition !== null ? (
        <a href={line.link} target="_blank" rel="noreferrer">
          Open the public page
        </a>
      ) : null}
    </Whole>
  );
}

function Told({ found, line, zone }: { found: Found; line: Schema<"SummaryOut">; zone: string }) {
  const [first] = found.why;
  const words = found.admitted
    ? found.until
      ? `Let in, can send until ${inZone(found.until, zone)}`
      : "Let in"
    : (found.why.map(({ reason }) => REASONS[reason])[0] ?? "");
  return (
    <div role="status">
      <GateTag
        state={found.admitted ? (found.in_grace ? "held" : "open") : "shut"}
        words={found.in_grace ? `In grace. ${words}` : words}
      />
      <Seen style={{ marginBlock: 12 }}>
        <div>
          <b>{first ? first.heading : line.title}</b>
          <p>{first ? first.detail : `The first page of edition ${line.edition} is shown.`}</p>
        </div>
      </Seen>
      {found.why.length > 1 ? (
        <>
          <p>Against it, the first counts:</p>
          <Reasons>
            {found.why.map(({ reason, until }) => (
              <li key={reason}>
                {REASONS[reason]}
                {until ? `, until ${inZone(until, zone)}` : ""}
              </li>
            ))}
          </Reasons>
        </>
      ) : null}
      {found.full.length ? (
        <p>
          Full: {found.full.map(([name, ...values]) => [...values, name].join(", ")).join("; ")}
        </p>
      ) : null}
      {found.left !== null ? <Quiet>Places left for them: {found.left}</Quiet> : null}
    </div>
  );
}
