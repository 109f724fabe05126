/** The reading pane: one entry, its restricted answers on request, and what happened to it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type RefObject } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../../client/client";
import { Button } from "../../../ui/Button";
import { Field } from "../../../ui/Field";
import { Strip } from "../../../ui/Strip";
import { Toggle } from "../../../ui/Toggle";
import { Quiet } from "../../../ui/text";
import { entry, ownClearance } from "../../data";
import { entryNumber } from "../../document";
import { languageName } from "../../languages";
import { useMe } from "../../shell/me";
import { useRight } from "../../shell/rights";
import { Loaded } from "../../shell/states";
import { faultAt, otherFault } from "../../useDoing";
import { whole } from "../../when";
import { Answers } from "./Answers";
import { CameBy } from "./CameBy";
import { Correcting, Undecided } from "./Correcting";
import { DeleteEntry } from "./DeleteEntry";
import { Handle } from "./Handle";
import { Notes } from "./Notes";
import { Print } from "./Print";
import { WhatHappened } from "./Happened";

type Read = Schema<"EntryRead">;

const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 18px 20px 40px;
  overflow: auto;
  min-width: 0;
  overflow-wrap: anywhere;
  h2 {
    font-size: 21px;
  }
  h3 {
    font-size: 14.5px;
    margin-top: 18px;
  }
`;

const Deeds = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
`;

const Steps = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  margin-bottom: 8px;
`;

/** What was revealed, for as long as one has clearance: it is asked for every few seconds. */
function useWhileCleared(id: string, revealed: Schema<"Revealed"> | undefined) {
  const standing = useQuery({ ...ownClearance(id), enabled: revealed !== undefined });
  return standing.data?.cleared === false || standing.isError ? undefined : revealed;
}

function Body({ read, id, language }: { read: Read; id: string; language: string }) {
  const queries = useQueryClient();
  const [reason, setReason] = useState("");
  const mayFollow = useMe().rights.includes("follow");
  const follows = useRight("share") || mayFollow;
  const writes = useRight("write");
  const revealing = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/entries/{entry_id}/revealed", {
          params: { path: { id, entry_id: read.entry.id } },
          body: { reason, language },
        }),
      ),
    gcTime: 0,
    onSuccess: () => queries.invalidateQueries({ queryKey: ["trail"] }),
  });
  const { answers, number, arrived, edition, finish, flags, withheld } = read.entry;
  const revealed = useWhileCleared(id, revealing.data);
  const seen = revealed?.answers;
  const ended = finish || revealed?.finish;
  const details = { ...read.details, ...revealed?.details };
  return (
    <>
      <h2>
        {entryNumber(number)} {answers["name"] ?? ""}
      </h2>
      <Quiet>
        {whole(arrived)}, edition {edition}
        {read.entry.anonymised ? `, anonymised ${whole(read.entry.anonymised)}` : ""}
        {ended ? <>, ended at &ldquo;{ended}&rdquo;</> : null}
      </Quiet>
      <Deeds>
        <Print id={id} numbers={[number]} />
        {writes ? <Correcting id={id} entryId={read.entry.id} /> : null}
      </Deeds>
      {writes && read.versions?.some(({ waits }) => waits) ? (
        <Undecided id={id} entryId={read.entry.id} />
      ) : null}
      <CameBy
        id={id}
        came={read.came}
        about={read.entry.about}
        entered={read.entry.entered ?? ""}
      />
      <Handle id={id} entry={read.entry} />
      {flags.length ? (
        <Strip>The link brought a value that will not do: {flags.join(", ")}</Strip>
      ) : null}
      <Answers
        id={id}
        read={read}
        seen={seen}
        details={details}
        follows={follows}
        reason={reason}
      />
      {!read.cleared && read.columns.some(({ restricted }) => restricted) ? (
        <p style={{ marginTop: 10 }}>
          You need clearance for the restricted answers. They are not on this screen.
        </p>
      ) : null}
      {read.cleared && (withheld?.length || !finish) && !seen ? (
        <form
          style={{ marginTop: 12, display: "grid", gap: 8, justifyItems: "start" }}
          onSubmit={(event) => {
            event.preventDefault();
            revealing.mutate();
          }}
        >
          {read.asks_reason ? (
            <Field
              label="Why do you have to see them?"
              value={reason}
              error={faultAt(revealing.error, "reason")}
              onChange={setReason}
              style={{ width: "100%" }}
            />
          ) : null}
          <Button type="submit" isDisabled={revealing.isPending}>
            Read the restricted answers
          </Button>
          <Quiet>The trail notes that you did{read.asks_reason ? ", and why" : ""}.</Quiet>
        </form>
      ) : null}
      {otherFault(revealing.error, ["reason"]) ? (
        <Strip tone="wrong">{revealing.error?.message}</Strip>
      ) : null}
      <Notes id={id} entryId={read.entry.id} />
      <WhatHappened id={id} read={read} follows={follows} reason={reason} />
      {writes ? (
        <p style={{ marginTop: 18 }}>
          <DeleteEntry id={id} entryId={read.entry.id} number={number} />
        </p>
      ) : null}
    </>
  );
}

interface ReadingProps {
  id: string;
  entryId: string;
  pane: RefObject<HTMLDivElement | null>;
  /** Where it stands among those that are looked at; -1 where it is not among them. */
  at: number;
  of: number;
  /** Whether questions read as they were asked, in the language of whoever answered. */
  asAsked: boolean;
  onAsAsked: (asAsked: boolean) => void;
  onStep: (by: number) => void;
}

interface LanguageProps {
  read: Read;
  language: string;
  onLanguage: (language: string) => void;
}

/** In the words and the language in which it was answered, or in those of the office. */
function Language({ read, language, onLanguage }: LanguageProps) {
  const own = read.entry.language ?? "";
  if (!own) return null;
  return (
    <Toggle isSelected={language === own} onChange={(on) => onLanguage(on ? own : "")}>
      As it was asked, in {languageName(own)}
    </Toggle>
  );
}

export function Reading({ id, entryId, pane, at, of, asAsked, onAsAsked, onStep }: ReadingProps) {
  const plain = useQuery(entry(id, entryId, ""));
  const language = asAsked ? (plain.data?.entry.language ?? "") : "";
  const query = useQuery(entry(id, entryId, language));
  return (
    <Side aria-label="The entry" ref={pane} tabIndex={-1}>
      <Steps>
        <Button weight="word" isDisabled={at <= 0} onPress={() => onStep(-1)}>
          Previous
        </Button>
        <Quiet>{at < 0 ? "" : `${at + 1} of ${of}`}</Quiet>
        <Button weight="word" isDisabled={at < 0 || at + 1 >= of} onPress={() => onStep(1)}>
          Next
        </Button>
      </Steps>
      <Loaded query={query}>
        {(read) => (
          <>
            <Language read={read} language={language} onLanguage={(on) => onAsAsked(on !== "")} />
            <Body key={read.entry.id + language} read={read} id={id} language={language} />
          </>
        )}
      </Loaded>
    </Side>
  );
}
