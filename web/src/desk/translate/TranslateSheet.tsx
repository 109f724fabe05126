/** The texts of a draft beside their translations: what is missing, what is older than its
 * original, and files for translators. */
import { useMutation } from "@tanstack/react-query";
import { memo, useCallback, useMemo, useState } from "react";
import styled from "styled-components";

import { asBytes, client, ApiError, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Mono, Quiet } from "../../ui/text";
import { count, first, type Doc } from "../document";
import { clashName } from "../draft/clashWords";
import type { Draft } from "../draft/useDraft";
import { AddLanguage } from "./AddLanguage";
import { autonym, directionOf, linesOf, stateOf, translated, type Line, type State } from "./lines";

const Bar = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
`;

const Rows = styled.ol`
  border-bottom: 1px solid var(--line);
`;

const Pair = styled.li`
  content-visibility: auto;
  contain-intrinsic-block-size: auto 74px;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 4px 22px;
  padding: 9px 0;
  border-top: 1px solid var(--line);
  p {
    white-space: pre-line;
    overflow-wrap: anywhere;
  }
  @media (max-width: 620px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Words = styled.textarea<{ $state: State }>`
  width: 100%;
  field-sizing: content;
  min-height: 34px;
  resize: vertical;
  border: 1px solid var(--edge);
  border-inline-start: 4px solid
    ${({ $state }) => ($state === "current" ? "var(--accent-mid)" : "var(--ochre)")};
  border-radius: 4px;
  background: var(--paper);
  padding: 6px 9px;
`;

const SAID: Record<State, string> = {
  missing: "Missing",
  older: "Older than its original",
  current: "",
};

interface OneProps {
  doc: Doc;
  line: Line;
  language: string;
  onWords: (at: string, words: string) => void;
}

/** Drawn again only when its own text has changed. */
const One = memo(
  function One({ doc, line: { at, text }, language, onWords }: OneProps) {
    const original = first(doc);
    const state = stateOf(text, language, original);
    const name = clashName(doc, at);
    return (
      <Pair>
        <div>
          <Mono>{name}</Mono>
          <p lang={original} dir={directionOf(original)}>
            {text[original]}
          </p>
        </div>
        <div>
          <Words
            $state={state}
            aria-label={`${name} (${language})`}
            lang={language}
            dir={directionOf(language)}
            rows={1}
            value={text[language] ?? ""}
            onChange={(event) => onWords(at, event.target.value)}
          />
          <Bar>
            <Quiet>{SAID[state]}</Quiet>
            {state === "older" ? (
              <Button weight="word" onPress={() => onWords(at, text[language] ?? "")}>
                It still holds
              </Button>
            ) : null}
          </Bar>
        </div>
      </Pair>
    );
  },
  (before, after) =>
    before.line.text === after.line.text &&
    before.line.at === after.line.at &&
    before.language === after.language,
);

type Filter = "all" | "left";

/** The places to show: those that are left to do when one begins, also once they are done. */
function useShown(doc: Doc, language: string) {
  const lines = linesOf(doc);
  const original = first(doc);
  const pick = (filter: Filter) =>
    filter === "all"
      ? null
      : new Set(
          lines
            .filter(({ text }) => stateOf(text, language, original) !== "current")
            .map(({ at }) => at),
        );
  const [shown, setShown] = useState<ReadonlySet<string> | null>(null);
  return {
    lines,
    shown: shown ? lines.filter(({ at }) => shown.has(at)) : lines,
    filter: shown ? "left" : "all",
    show: (filter: Filter) => setShown(pick(filter)),
  };
}

interface FilesProps {
  draft: Draft;
  language: string;
  onLanguage: (language: string) => void;
}

function Files({ draft, language, onLanguage }: FilesProps) {
  const { id, saving, edit } = draft;
  const importing = useMutation({
    mutationFn: (file: File) =>
      got(
        client.POST("/api/questionnaires/{id}/draft/translations", {
          params: { path: { id } },
          ...asBytes(file),
        }),
      ),
    onSuccess: (found) => {
      edit(found.document);
      onLanguage(found.language);
    },
  });
  const { data, error } = importing;
  return (
    <>
      <Bar>
        <a href={`/api/questionnaires/${id}/draft/translations/${language}`} download>
          Export for translators (XLIFF 1.2)
        </a>
        <label>
          Import{" "}
          <input
            type="file"
            accept=".xlf,.xliff,application/xliff+xml"
            disabled={saving !== "saved"}
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) importing.mutate(file);
              event.target.value = "";
            }}
          />
        </label>
      </Bar>
      {error ? (
        <Strip tone="wrong">
          {error.message} {error instanceof ApiError ? error.faults[0]?.message : null}
        </Strip>
      ) : null}
      {data ? (
        <Strip tone="calm">
          {`${count(data.taken, "text")} changed (${data.language}).`}
          {data.older ? ` ${data.older} older than the original here.` : ""}
          {data.unknown.length ? ` Not here: ${data.unknown.join(", ")}.` : ""}
        </Strip>
      ) : null}
    </>
  );
}

export function TranslateSheet({ draft, onClose }: { draft: Draft; onClose: () => void }) {
  const { doc, edit } = draft;
  const others = useMemo(() => (doc.languages ?? []).slice(1), [doc.languages]);
  const [chosen, setChosen] = useState(others[0] ?? "");
  const language = others.includes(chosen) ? chosen : (others[0] ?? "");
  const onWords = useCallback(
    (at: string, words: string) =>
      edit((now) => translated(now, at, language, words), `${language} ${at}`),
    [edit, language],
  );
  return (
    <Sheet title="Languages" open onClose={onClose} width="whole">
      <Bar>
        <span>
          Written in <b>{autonym(first(doc))}</b>
        </span>
        {others.length ? (
          <Choose
            name="Language"
            value={language}
            options={others.map((code) => ({ code, label: `${autonym(code)} (${code})` }))}
            onChange={setChosen}
          />
        ) : null}
        <AddLanguage
          doc={doc}
          onAdd={(code) => {
            edit((now) => ({ ...now, languages: [...(now.languages ?? ["en"]), code] }));
            setChosen(code);
          }}
        />
        {language ? (
          <Button
            weight="word"
            onPress={() =>
              edit((now) => ({
                ...now,
                languages: (now.languages ?? []).filter((code) => code !== language),
              }))
            }
          >
            {`No longer in ${autonym(language)}`}
          </Button>
        ) : null}
      </Bar>
      {language ? (
        <>
          <Files draft={draft} language={language} onLanguage={setChosen} />
          <SideBySide key={language} doc={doc} language={language} onWords={onWords} />
        </>
      ) : (
        <p>It is asked in one language. Add another one to translate it.</p>
      )}
      <Bar>
        <Button onPress={onClose}>Close</Button>
      </Bar>
    </Sheet>
  );
}

type SideProps = Omit<OneProps, "line">;

function SideBySide({ doc, language, onWords }: SideProps) {
  const { lines, shown, filter, show } = useShown(doc, language);
  const states = lines.map(({ text }) => stateOf(text, language, first(doc)));
  const [missing, older] = ["missing", "older"].map(
    (state) => states.filter((one) => one === state).length,
  );
  return (
    <>
      <Bar>
        <Choose
          name="Which texts"
          value={filter}
          options={[
            { code: "all", label: "All texts" },
            { code: "left", label: "What is left to do" },
          ]}
          onChange={(code) => show(code as Filter)}
        />
        <span role="status">
          {missing || older
            ? `${missing} missing, ${older} older than the original, of ${count(lines.length, "text")}`
            : `All ${count(lines.length, "text")} are translated`}
        </span>
      </Bar>
      <Rows aria-label="Texts">
        {shown.map((line) => (
          <One key={line.at} doc={doc} line={line} language={language} onWords={onWords} />
        ))}
      </Rows>
    </>
  );
}
