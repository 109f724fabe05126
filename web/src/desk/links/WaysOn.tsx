/** Where people go on from here, and which sites may show the page in a frame. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Toggle } from "../../ui/Toggle";
import { questionnaires } from "../data";
import { say, told, type Doc } from "../document";
import { usePlaceId } from "../shell/Place";
import { Loaded } from "../shell/states";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { linksSettings, onward, saveLinks } from "./data";
import { SignInPart } from "./SignInPart";
import { Snippets } from "./Snippets";

type Settings = Schema<"LinksBody">;
type HandOff = Schema<"HandOff">;
type Values = NonNullable<HandOff["values"]>;

const One = styled.fieldset`
  border: 0;
  border-inline-start: 3px solid var(--accent-mid);
  padding: 4px 0 4px 16px;
  display: grid;
  gap: 12px;
  min-width: 0;
`;

const Pairs = styled.div`
  display: grid;
  gap: 8px;
  > div {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 10px;
    align-items: center;
  }
`;

const NOTHING = " ";

interface ValuesProps {
  to: string;
  values: Values;
  onChange: (values: Values) => void;
  errorAt: (number: number) => string | undefined;
}

/** What goes where: for each thing that can take something, what it takes. */
function Mapping({ to, values, onChange, errorAt }: ValuesProps) {
  const id = usePlaceId();
  const query = useQuery(onward(id, to));
  return (
    <Loaded query={query}>
      {({ sources, targets, proposed }) => {
        const labels = new Map(sources.map(({ name, label }) => [name, label]));
        // Of a name that is taken as a whole, or in parts, only that is offered.
        const isOffered = ({ name }: { name: string }) => {
          const [key = "", part] = name.split(".");
          const others = values.some(({ target }) =>
            part ? target === key : target.startsWith(`${key}.`),
          );
          return !others;
        };
        const put = (target: string, source: string) => {
          const others = values.filter((one) => one.target !== target);
          onChange(source === NOTHING ? others : [...others, { source, target, locked: false }]);
        };
        return (
          <Pairs>
            {values.length ? null : (
              <div>
                <Button onPress={() => onChange(proposed)} isDisabled={!proposed.length}>
                  {proposed.length
                    ? `Take what fits by name: ${proposed.length}`
                    : "Nothing fits by its name"}
                </Button>
              </div>
            )}
            {targets.filter(isOffered).map(({ name, label, fits, lockable }) => {
              const at = values.findIndex((one) => one.target === name);
              const value = values[at];
              const wrong = at < 0 ? undefined : errorAt(at);
              return (
                <div key={name}>
                  <b>{label}</b> takes
                  <Picker
                    inline
                    label={`${label} takes`}
                    options={[
                      { code: NOTHING, label: "nothing" },
                      ...fits.map((code) => ({ code, label: labels.get(code) ?? code })),
                    ]}
                    value={value?.source ?? NOTHING}
                    onChange={(source) => put(name, source)}
                  />
                  {value && lockable ? (
                    <Toggle
                      isSelected={value.locked ?? false}
                      onChange={(locked) =>
                        onChange(values.map((one) => (one === value ? { ...one, locked } : one)))
                      }
                    >
                      locked
                    </Toggle>
                  ) : null}
                  {wrong ? <b role="alert">{wrong}</b> : null}
                </div>
              );
            })}
          </Pairs>
        );
      }}
    </Loaded>
  );
}

interface HandOffProps {
  doc: Doc;
  one: HandOff;
  others: readonly { code: string; label: string }[];
  errorAt: (place: string) => string | undefined;
  onChange: (one: HandOff) => void;
  onRemove: () => void;
}

function OneHandOff({ doc, one, others, errorAt, onChange, onRemove }: HandOffProps) {
  const finishes = doc.finishes.map(({ key, title }) => ({
    code: key,
    label: say(doc, title) || key,
  }));
  return (
    <One>
      <div>
        Who ends at{" "}
        <Picker
          inline
          label="Who ends at"
          options={finishes}
          value={one.finish || null}
          onChange={(finish) => onChange({ ...one, finish })}
        />{" "}
        may go on in{" "}
        <Picker
          inline
          label="May go on in"
          options={others}
          value={one.to || null}
          onChange={(to) => onChange({ ...one, to, values: [] })}
        />
      </div>
      {errorAt("") ? <b role="alert">{errorAt("")}</b> : null}
      {errorAt("/to") ? <b role="alert">{errorAt("/to")}</b> : null}
      <Field
        label="The button says"
        value={say(doc, one.label)}
        error={errorAt("/label")}
        onChange={(text) => onChange({ ...one, label: told(doc, one.label, text) })}
      />
      {one.to ? (
        <Mapping
          to={one.to}
          values={one.values ?? []}
          onChange={(values) => onChange({ ...one, values })}
          errorAt={(number) => errorAt(`/values/${number}`)}
        />
      ) : null}
      <div>
        <Button weight="word" onPress={onRemove}>
          Remove
        </Button>
      </div>
    </One>
  );
}

interface FormProps {
  doc: Doc;
  address: string;
  found: Settings;
  mayWrite: boolean;
  saved: boolean;
  setSaved: (saved: boolean) => void;
}

function Form({ doc, address, found, mayWrite, saved, setSaved }: FormProps) {
  const id = usePlaceId();
  const known = useQuery(questionnaires).data ?? [];
  const others = known
    .filter((one) => one.edition !== null && one.id !== id)
    .map((one) => ({ code: one.link.split("/").at(-1) ?? "", label: one.title }));
  const [handOffs, setHandOffs] = useState<readonly HandOff[]>(found.links.hand_offs ?? []);
  const [sites, setSites] = useState((found.links.frames ?? []).join("\n"));
  const [signIn, setSignIn] = useState(found.links.sign_in ?? {});
  const saving = useDoing(
    () =>
      saveLinks(id, {
        revision: found.revision,
        links: {
          hand_offs: [...handOffs],
          frames: sites
            .split("\n")
            .map((one) => one.trim())
            .filter(Boolean),
          sign_in: signIn,
        },
      }),
    [linksSettings(id).queryKey],
    () => setSaved(true),
  );
  const change = (next: readonly HandOff[]) => {
    setSaved(false);
    setHandOffs(next);
  };
  const shown = ["sign_in"].concat(
    handOffs.flatMap((one, at) => [
      `hand_offs/${at}`,
      `hand_offs/${at}/to`,
      `hand_offs/${at}/label`,
      ...(one.values ?? []).map((_, number) => `hand_offs/${at}/values/${number}`),
    ]),
  );
  const failed = otherFault(saving.error, shown);
  return (
    <>
      <h2>Ways on</h2>
      <p>
        At a finish people can go on in another questionnaire, with answers taken along. The two
        entries are linked. What goes along stands in no address.
      </p>
      {handOffs.map((one, at) => (
        <OneHandOff
          key={at}
          doc={doc}
          one={one}
          others={others}
          errorAt={(place) => faultAt(saving.error, `hand_offs/${at}${place}`)}
          onChange={(next) => change(handOffs.map((old, n) => (n === at ? next : old)))}
          onRemove={() => change(handOffs.filter((_, n) => n !== at))}
        />
      ))}
      {mayWrite ? (
        <div>
          <Button
            onPress={() => change([...handOffs, { finish: "", to: "", label: {}, values: [] }])}
          >
            Add a way on
          </Button>
        </div>
      ) : null}
      <h2>On other sites</h2>
      <Field
        label="Sites that may show it in a frame"
        help="One a line, such as https://wells.example.org. No other site can."
        lines={3}
        value={sites}
        onChange={(text) => {
          setSaved(false);
          setSites(text);
        }}
      />
      <SignInPart
        signIn={signIn}
        error={faultAt(saving.error, "sign_in")}
        onChange={(next) => {
          setSaved(false);
          setSignIn(next);
        }}
      />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      {mayWrite ? (
        <Actions style={{ justifyContent: "flex-start", alignItems: "center" }}>
          <Button weight="main" onPress={() => saving.mutate()} isDisabled={saving.isPending}>
            Save
          </Button>
          <span role="status">{saved && !saving.isPending ? "Saved" : ""}</span>
        </Actions>
      ) : null}
      <Snippets doc={doc} address={address} framed={Boolean(found.links.frames?.length)} />
    </>
  );
}

export function WaysOn({
  doc,
  address,
  mayWrite,
}: Pick<FormProps, "doc" | "address" | "mayWrite">) {
  const [saved, setSaved] = useState(false);
  const query = useQuery(linksSettings(usePlaceId()));
  return (
    <Loaded query={query}>
      {(found) => (
        <Form
          key={found.revision}
          doc={doc}
          address={address}
          found={found}
          mayWrite={mayWrite}
          saved={saved}
          setSaved={setSaved}
        />
      )}
    </Loaded>
  );
}
