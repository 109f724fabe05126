/** Links: the public address, and what a link can bring with it. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Mono, Quiet } from "../../ui/text";
import { edition, questionnaire } from "../data";
import { everyItem, say, type Doc } from "../document";
import { subjectOf } from "../subjects";
import { usePlaceId } from "../shell/Place";
import { Empty, Waiting } from "../shell/states";

const Whole = styled.div`
  padding: 22px clamp(12px, 2.4vw, 30px);
  max-width: 820px;
  display: grid;
  gap: 22px;
  h2 {
    font-size: 20px;
  }
`;

const Address = styled.output`
  display: block;
  font: 14px var(--mono);
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: 4px;
  padding: 10px 12px;
  overflow-wrap: anywhere;
`;

const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 380px) minmax(0, 1fr);
  gap: 14px;
  align-items: end;
  padding: 12px 0 0;
  @media (max-width: 560px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const LEFT_OUT = " ";
const REFUSED = "refused";

function Builder({ link, doc }: { link: string; doc: Doc }) {
  const [chosen, setChosen] = useState<Readonly<Record<string, string>>>({});
  const [copied, setCopied] = useState("");
  const carried = everyItem(doc).filter(({ kind }) => kind === "carried");
  const given = Object.entries(chosen).filter(([, value]) => value.trim());
  const query = new URLSearchParams(given).toString();
  const whole = query ? `${link}?${query}` : link;
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(whole);
      setCopied(whole);
    } catch {
      setCopied(REFUSED);
    }
  };
  return (
    <>
      <section>
        <h2>What the link brings</h2>
        <Quiet>
          Plain values stand in the link. Whoever holds it can read them and change them.
        </Quiet>
        {carried.length ? (
          carried.map((item) => {
            const { label, options, key } = subjectOf(doc, item);
            const set = (value: string) => setChosen({ ...chosen, [key]: value });
            return (
              <Row key={key}>
                {options.length ? (
                  <Picker
                    label={label}
                    options={[{ code: LEFT_OUT, label: "Left out" }, ...options]}
                    value={chosen[key] ?? LEFT_OUT}
                    onChange={set}
                  />
                ) : (
                  <Field label={label} value={chosen[key] ?? ""} onChange={set} />
                )}
                <Mono>{key}</Mono>
              </Row>
            );
          })
        ) : (
          <p>This questionnaire has no carried values. Script is where they are added.</p>
        )}
      </section>
      <section>
        <h2>The link</h2>
        <Address aria-label="The link">{whole}</Address>
        <div
          style={{
            display: "flex",
            gap: 12,
            marginTop: 10,
            alignItems: "center",
          }}
        >
          <Button weight="main" onPress={() => void copy()}>
            {copied === whole ? "Copied" : "Copy"}
          </Button>
          <a href={whole} target="_blank" rel="noreferrer">
            Open {say(doc, doc.title)}
          </a>
        </div>
      </section>
    </>
  );
}

export function LinksPlace() {
  const id = usePlaceId();
  const line = useQuery(questionnaire(id)).data;
  const published = useQuery({
    ...edition(id),
    enabled: line?.edition != null,
  }).data;
  if (line && line.edition === null) {
    return (
      <Empty title="No link yet">
        <p>Publish the questionnaire in Script. Its address is then made up here.</p>
      </Empty>
    );
  }
  if (!line || !published) return <Waiting />;
  return (
    <Whole>
      <Builder link={line.link} doc={published.document} />
    </Whole>
  );
}
