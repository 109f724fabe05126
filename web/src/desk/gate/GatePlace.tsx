/** Gate: open or shut by hand, and the words that people read when it is shut. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Arm } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { gate, questionnaire } from "../data";
import { count } from "../document";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { Loaded, Waiting } from "../shell/states";

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  min-height: calc(100vh - 102px);
  @media (max-width: 980px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Left = styled.div`
  padding: 22px clamp(12px, 2.4vw, 30px);
  display: grid;
  gap: 26px;
  align-content: start;
`;

const Now = styled.section<{ $open: boolean }>`
  display: flex;
  flex-wrap: wrap;
  gap: 12px 24px;
  align-items: center;
  padding: 22px 20px;
  border-inline-start: 4px solid ${({ $open }) => ($open ? "var(--accent)" : "var(--rust)")};
  background: ${({ $open }) => ($open ? "var(--accent-soft)" : "var(--rust-soft)")};
  > svg {
    flex: none;
    color: ${({ $open }) => ($open ? "var(--accent)" : "var(--rust)")};
  }
  > div {
    flex: 1 1 240px;
  }
  h2 {
    font-size: 23px;
  }
`;

const Right = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 20px 22px;
  display: grid;
  gap: 10px;
  align-content: start;
  h2 {
    font-size: 20px;
  }
`;

const Seen = styled.div`
  border: 1px solid var(--line-2);
  border-radius: 4px;
  background: var(--mist);
  padding: 18px;
  display: grid;
  gap: 8px;
  overflow-wrap: anywhere;
  b {
    font: 700 19px var(--head);
  }
  p {
    white-space: pre-line;
  }
`;

type GateOut = Schema<"GateOut">;
type Gate = Schema<"Gate">;

interface GateProps {
  id: string;
  found: GateOut;
  line: Schema<"SummaryOut">;
}

function useSaveGate(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schema<"GateBody">) =>
      got(
        client.PUT("/api/questionnaires/{id}/gate", {
          params: { path: { id } },
          body,
        }),
      ),
    onSuccess: (saved) => queries.setQueryData(gate(id).queryKey, saved),
    onSettled: () =>
      Promise.all([
        queries.invalidateQueries(questionnaire(id)),
        queries.invalidateQueries(gate(id)),
      ]),
  });
}

function GateState({ id, found, line, writes }: GateProps & { writes: boolean }) {
  const saving = useSaveGate(id);
  const open = found.gate.state === "open";
  const published = line.edition !== null;
  const turn = () => {
    const next: Gate = { ...found.gate, state: open ? "shut" : "open" };
    saving.mutate({ revision: found.revision, gate: next });
  };
  return (
    <>
      <Now $open={open}>
        <Arm state={found.gate.state} size={54} />
        <div>
          <h2>{open ? "Open to everyone with the address" : "Shut"}</h2>
          <p>
            {published
              ? `${count(line.entries, "entry")} so far. ${open ? "It stays open until somebody shuts it." : "Nobody can answer."}`
              : "Nothing is published yet, so there is nothing to open."}{" "}
            {published ? (
              open ? (
                <Link to="/q/$id/links" params={{ id }}>
                  The link to pass on
                </Link>
              ) : null
            ) : (
              <Link to="/q/$id/script" params={{ id }}>
                Go to the script and publish it
              </Link>
            )}
          </p>
        </div>
        {writes ? (
          <Button
            weight={open ? "plain" : "main"}
            isDisabled={saving.isPending || (!open && !published)}
            onPress={turn}
          >
            {open ? "Shut now" : "Open now"}
          </Button>
        ) : null}
      </Now>
      {saving.error ? <Strip tone="wrong">{saving.error.message}</Strip> : null}
    </>
  );
}

interface WordsProps {
  id: string;
  found: GateOut;
  language: string;
  words: string;
  onWords: (words: string) => void;
}

function Words({ id, found, language, words, onWords }: WordsProps) {
  const saving = useSaveGate(id);
  const kept = found.gate.shut_words?.[language] ?? "";
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const next: Gate = {
          ...found.gate,
          shut_words: words.trim() ? { [language]: words } : {},
        };
        saving.mutate({ revision: found.revision, gate: next });
      }}
    >
      {saving.error ? <Strip tone="wrong">{saving.error.message}</Strip> : null}
      <Field
        label="What people read when it is shut"
        help={`Left empty, it says: ${found.default_words ?? ""}`}
        lines={4}
        value={words}
        onChange={onWords}
      />
      <Button
        type="submit"
        isDisabled={words === kept || saving.isPending}
        style={{ marginTop: 10 }}
      >
        {words === kept ? "Words are saved" : "Save the words"}
      </Button>
    </form>
  );
}

function AtTheGate({ found, line, words }: Omit<GateProps, "id"> & { words: string }) {
  const open = found.gate.state === "open";
  return (
    <Right>
      <h2>At the gate</h2>
      <Quiet>What a visitor sees now</Quiet>
      <Seen>
        {open ? (
          <>
            <b>{line.title}</b>
            <p>Let in. The first page of edition {line.edition} is shown.</p>
          </>
        ) : (
          <>
            <b>Closed at the moment</b>
            <p>{words || found.default_words}</p>
          </>
        )}
      </Seen>
      {line.edition !== null ? (
        <a href={line.link} target="_blank" rel="noreferrer">
          Open the public page
        </a>
      ) : null}
    </Right>
  );
}

function Inside({ id, found, line }: GateProps) {
  const writes = useRight("write");
  const { language } = line;
  const [words, setWords] = useState(found.gate.shut_words?.[language] ?? "");
  return (
    <Whole>
      <Left>
        <GateState id={id} found={found} line={line} writes={writes} />
        {writes ? (
          <Words id={id} found={found} language={language} words={words} onWords={setWords} />
        ) : (
          <>
            <h3>What people read when it is shut</h3>
            <p>{words || found.default_words}</p>
          </>
        )}
      </Left>
      <AtTheGate found={found} line={line} words={words} />
    </Whole>
  );
}

export function GatePlace() {
  const id = usePlaceId();
  const query = useQuery(gate(id));
  const line = useQuery(questionnaire(id)).data;
  return (
    <Loaded query={query}>
      {(found) => (line ? <Inside key={id} id={id} found={found} line={line} /> : <Waiting />)}
    </Loaded>
  );
}
