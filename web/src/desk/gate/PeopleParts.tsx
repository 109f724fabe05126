/** Who may come in, and how often one person may answer. */
import { useQuery } from "@tanstack/react-query";

import { Button } from "../../ui/Button";
import { InSentence } from "../../ui/InSentence";
import { Toggle } from "../../ui/Toggle";
import { contactLists } from "../contacts/data";
import { useMe } from "../shell/me";
import { numberOr, partsOf, type Gate } from "./data";
import { Part, Sentence } from "./Part";

export interface PartProps {
  gate: Gate;
  writes: boolean;
  onChange: (change: Partial<Gate>) => void;
}

type Who = NonNullable<Gate["audience"]>[number];

/** Names with commas between them, as a list. */
const listed = (text: string): string[] =>
  text
    .split(",")
    .map((one) => one.trim())
    .filter(Boolean);

function Passes({
  who,
  writes,
  onChange,
}: {
  who: Extract<Who, { kind?: "passes" }>;
  writes: boolean;
  onChange: (who: Who) => void;
}) {
  const reaches = useMe().rights.includes("reach");
  const lists = useQuery({ ...contactLists, enabled: reaches }).data ?? [];
  const chosen = who.lists ?? [];
  return (
    <>
      <p>{chosen.length ? "People with a pass who are on" : "People with a pass"}</p>
      {lists.map(({ id, name }) => (
        <Toggle
          key={id}
          isSelected={chosen.includes(id)}
          isDisabled={!writes}
          onChange={(on) =>
            onChange({
              ...who,
              lists: on ? [...chosen, id] : chosen.filter((one) => one !== id),
            })
          }
        >
          {name}
        </Toggle>
      ))}
    </>
  );
}

function SignedIn({
  who,
  writes,
  onChange,
}: {
  who: Extract<Who, { kind?: "signed_in" }>;
  writes: boolean;
  onChange: (who: Who) => void;
}) {
  return (
    <Sentence>
      People who signed in, with a mail address of
      <InSentence
        name="Mail domains"
        type="text"
        value={(who.domains ?? []).join(", ")}
        placeholder="any domain"
        isDisabled={!writes}
        onChange={(text) => onChange({ ...who, domains: listed(text) })}
      />
      or whose claim
      <InSentence
        name="Claim"
        type="text"
        size={10}
        value={who.claim ?? ""}
        placeholder="groups"
        isDisabled={!writes}
        onChange={(claim) => onChange({ ...who, claim })}
      />
      says
      <InSentence
        name="Values of the claim"
        type="text"
        value={(who.values ?? []).join(", ")}
        placeholder="anything"
        isDisabled={!writes}
        onChange={(text) => onChange({ ...who, values: listed(text) })}
      />
    </Sentence>
  );
}

function Confirmed({
  who,
  writes,
  onChange,
}: {
  who: Extract<Who, { kind?: "mail" }>;
  writes: boolean;
  onChange: (who: Who) => void;
}) {
  return (
    <Sentence>
      People who open a link that is sent to their mail address, of
      <InSentence
        name="Domains of confirmed addresses"
        type="text"
        value={(who.domains ?? []).join(", ")}
        placeholder="any domain"
        isDisabled={!writes}
        onChange={(text) => onChange({ ...who, domains: listed(text) })}
      />
    </Sentence>
  );
}

export function AudiencePart({ gate, writes, onChange }: PartProps) {
  const { audience } = partsOf(gate);
  const put = (at: number, who: Who) =>
    onChange({ audience: audience.map((old, n) => (n === at ? who : old)) });
  return (
    <Part title="Who may come in">
      {audience.length ? null : <p>Everyone with the address.</p>}
      {audience.map((who, at) => (
        <div key={at}>
          {who.kind === "signed_in" ? (
            <SignedIn who={who} writes={writes} onChange={(next) => put(at, next)} />
          ) : who.kind === "mail" ? (
            <Confirmed who={who} writes={writes} onChange={(next) => put(at, next)} />
          ) : (
            <Passes who={who} writes={writes} onChange={(next) => put(at, next)} />
          )}
          {writes ? (
            <Button
              weight="word"
              onPress={() => onChange({ audience: audience.filter((_, n) => n !== at) })}
            >
              Remove
            </Button>
          ) : null}
        </div>
      ))}
      {writes ? (
        <Sentence>
          <Button
            onPress={() => onChange({ audience: [...audience, { kind: "passes", lists: [] }] })}
          >
            {audience.length ? "Or pass holders" : "Only pass holders"}
          </Button>
          <Button onPress={() => onChange({ audience: [...audience, { kind: "signed_in" }] })}>
            {audience.length ? "Or people who sign in" : "Only people who sign in"}
          </Button>
          <Button onPress={() => onChange({ audience: [...audience, { kind: "mail" }] })}>
            {audience.length ? "Or a confirmed mail address" : "Only a confirmed mail address"}
          </Button>
        </Sentence>
      ) : null}
    </Part>
  );
}

const KNOWN = {
  sign_in: "their sign-in, which is sure",
  contact: "the contact whose pass they hold",
  pass: "their pass, which can be passed on",
  mail: "the mail address that they confirmed, of which one may have many",
  device: "their browser, whose storage they can empty",
} as const;

type KnownBy = keyof typeof KNOWN;
const WAYS = Object.keys(KNOWN) as KnownBy[];

export function PerPersonPart({ gate, writes, onChange }: PartProps) {
  const limit = gate.per_person;
  if (!limit) {
    return (
      <Part title="How often one person may answer">
        <p>As often as they like.</p>
        {writes ? (
          <Button onPress={() => onChange({ per_person: { most: 1, known_by: WAYS } })}>
            Limit it
          </Button>
        ) : null}
      </Part>
    );
  }
  const put = (part: Partial<typeof limit>) => onChange({ per_person: { ...limit, ...part } });
  const known = limit.known_by ?? WAYS;
  return (
    <Part title="How often one person may answer">
      <Sentence>
        <InSentence
          name="Entries of one person"
          type="number"
          min={1}
          value={String(limit.most ?? 1)}
          isDisabled={!writes}
          onChange={(text) => put({ most: Math.max(numberOr(text, 1), 1) })}
        />
        entries in any
        <InSentence
          name="Days"
          type="number"
          min={1}
          value={limit.days == null ? "" : String(limit.days)}
          placeholder="ever"
          isDisabled={!writes}
          onChange={(text) => put({ days: text === "" ? null : Math.max(numberOr(text, 1), 1) })}
        />
        days, and not again within
        <InSentence
          name="Hours of pause"
          type="number"
          min={0}
          value={String(limit.pause ?? 0)}
          isDisabled={!writes}
          onChange={(text) => put({ pause: numberOr(text, 0) })}
        />
        hours.
      </Sentence>
      <p>A person is known again by the first of these that there is:</p>
      {WAYS.map((way) => (
        <Toggle
          key={way}
          isSelected={known.includes(way)}
          isDisabled={!writes || (known.length === 1 && known.includes(way))}
          onChange={(on) =>
            put({ known_by: WAYS.filter((one) => (one === way ? on : known.includes(one))) })
          }
        >
          {KNOWN[way]}
        </Toggle>
      ))}
      <Toggle
        isSelected={limit.archived ?? true}
        isDisabled={!writes}
        onChange={(archived) => put({ archived })}
      >
        Entries in the archive count too
      </Toggle>
      {writes ? (
        <Button weight="word" onPress={() => onChange({ per_person: null })}>
          No limit
        </Button>
      ) : null}
    </Part>
  );
}
