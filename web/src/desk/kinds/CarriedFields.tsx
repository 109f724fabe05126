/** The bench's part for a carried value: where it comes from, who reads it, what if it is wrong. */
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { isSeen, SOURCES, sourcesOf, type Carried, type Source } from "../carried";
import { say, told, type Doc } from "../document";
import { Section } from "../shell/Section";

interface CarriedProps {
  item: Carried;
  doc: Doc;
  /** The page of the desk that lists contact fields has more of them. */
  set: (part: Partial<Carried>) => void;
}

const KINDS = Object.entries(SOURCES).map(([code, label]) => ({ code, label }));

const CONTACT_FIELDS = [
  { code: "key", label: "id" },
  { code: "name", label: "name" },
  { code: "given", label: "given name" },
  { code: "family", label: "family name" },
  { code: "email", label: "mail address" },
  { code: "phone", label: "phone number" },
  { code: "organisation", label: "organisation" },
  { code: "language", label: "language" },
];

function fresh(kind: Source["kind"]): Source {
  switch (kind) {
    case "contact":
      return { kind, field: "" };
    case "claim":
      return { kind, claim: "" };
    case "constant":
      return { kind, value: "" };
    default:
      return { kind };
  }
}

interface SourceProps {
  item: Carried;
  doc: Doc;
  source: Source;
  onChange: (source: Source) => void;
}

/** What a source needs besides its kind. */
function Details({ item, doc, source, onChange }: SourceProps) {
  switch (source.kind) {
    case "contact":
      return (
        <Picker
          label="Field of the contact"
          options={CONTACT_FIELDS}
          value={source.field || null}
          onChange={(field) => onChange({ ...source, field })}
        />
      );
    case "claim":
      return (
        <Field
          label="Claim"
          help="As the sign-in names it, such as email or groups."
          value={source.claim ?? ""}
          maxLength={60}
          onChange={(claim) => onChange({ ...source, claim })}
        />
      );
    case "constant":
      return item.options?.length ? (
        <Picker
          label="Value"
          options={item.options.map(({ code, label }) => ({
            code,
            label: say(doc, label) || code,
          }))}
          value={source.value || null}
          onChange={(value) => onChange({ ...source, value })}
        />
      ) : (
        <Field
          label="Value"
          value={source.value ?? ""}
          onChange={(value) => onChange({ ...source, value })}
        />
      );
    default:
      return null;
  }
}

function Sources({ item, doc, set }: CarriedProps) {
  const sources = sourcesOf(item);
  const put = (at: number, source: Source) =>
    set({ sources: sources.map((one, n) => (n === at ? source : one)) });
  const taken = new Set(sources.map(({ kind }) => kind));
  const next = KINDS.find(({ code }) => !taken.has(code as Source["kind"]))?.code ?? "constant";
  return (
    <>
      {sources.map((source, at) => (
        <div key={`${source.kind} ${at}`} style={{ display: "grid", gap: 6 }}>
          <Picker
            label={at ? "Else it comes from" : "It comes from"}
            options={KINDS}
            value={source.kind}
            onChange={(kind) => put(at, fresh(kind as Source["kind"]))}
          />
          <Details item={item} doc={doc} source={source} onChange={(one) => put(at, one)} />
          <Button
            weight="word"
            style={{ justifySelf: "start" }}
            onPress={() => set({ sources: sources.filter((_, n) => n !== at) })}
          >
            Remove this source
          </Button>
        </div>
      ))}
      {sources.length ? null : <p>Nothing brings it: only a finish sets it.</p>}
      <Button
        onPress={() => set({ sources: [...sources, fresh(next as Source["kind"])] })}
        isDisabled={sources.length >= 10}
      >
        {sources.length ? "Add a source for when there is none" : "Add a source"}
      </Button>
    </>
  );
}

const SHOWN = [
  { code: "no", label: "Not at all" },
  { code: "locked", label: "It is shown, locked" },
  { code: "changeable", label: "It is shown and can be changed" },
];

const WRONG = [
  { code: "flag", label: "Take the entry and flag it" },
  { code: "ask", label: "Ask the visitor for it" },
  { code: "refuse", label: "Refuse the visitor" },
];

/** An id in another system, with what people call it and where it is shown. */
function AboutIt({ item, doc, set }: CarriedProps) {
  const { about } = item;
  return (
    <Section title="What the entry is about">
      <Toggle
        isSelected={Boolean(about)}
        onChange={(on) => set({ about: on ? { name: {}, address: "" } : null })}
      >
        It is the id of a thing in another system
      </Toggle>
      {about ? (
        <>
          <Field
            label="What people call it"
            help={`May use carried values, such as Well {${item.key}}.`}
            value={say(doc, about.name)}
            onChange={(text) => set({ about: { ...about, name: told(doc, about.name, text) } })}
          />
          <Field
            label="Where that system shows it"
            help={`An address, such as https://example.org/wells/{${item.key}}. Staff see it as a link.`}
            value={about.address ?? ""}
            onChange={(address) => set({ about: { ...about, address } })}
          />
        </>
      ) : null}
    </Section>
  );
}

export function CarriedFields(props: CarriedProps) {
  const { item, set } = props;
  return (
    <>
      <Section title="Where it comes from">
        <Sources {...props} />
      </Section>
      <Section title="What the visitor sees">
        <Toggle
          isSelected={item.sealed ?? false}
          onChange={(sealed) => set(sealed ? { sealed, shown: "no" } : { sealed, told: false })}
        >
          Sealed: never to be read or changed
        </Toggle>
        {item.sealed ? (
          <Toggle isSelected={item.told ?? false} onChange={(on) => set({ told: on })}>
            Texts may say it all the same
          </Toggle>
        ) : (
          <Picker
            label="On its page"
            options={SHOWN}
            value={item.shown ?? "no"}
            onChange={(shown) => set({ shown: shown as NonNullable<Carried["shown"]> })}
          />
        )}
        <Picker
          label={item.required ? "When none comes, or a wrong one" : "When a wrong one comes"}
          options={
            item.sealed && !isSeen(item) ? WRONG.filter(({ code }) => code !== "ask") : WRONG
          }
          value={item.when_wrong ?? "flag"}
          onChange={(when_wrong) =>
            set({ when_wrong: when_wrong as NonNullable<Carried["when_wrong"]> })
          }
        />
      </Section>
      <AboutIt {...props} />
    </>
  );
}
