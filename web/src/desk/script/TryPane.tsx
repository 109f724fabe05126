/** The draft tried beside the script: the public page itself, as wide as a phone or a desk. */
import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";

import { client, got } from "../../client/client";
import { randomHex } from "../../client/random";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Strip } from "../../ui/Strip";
import { say } from "../document";
import type { ScriptPart } from "./part";
import { Side } from "./Section";

/** How wide the page believes to be, in pixels, and how wide the pane is. */
const WIDTHS = {
  phone: { page: 390, pane: 390 },
  desk: { page: 1024, pane: 640 },
} as const;

export type Width = keyof typeof WIDTHS;

export const paneWidth = (width: Width): number => WIDTHS[width].pane;

const Pane = styled(Side)`
  overflow: hidden;
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  @media (max-width: 1080px) {
    height: 100vh;
  }
`;

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 10px 14px;
  h2 {
    font-size: 14.5px;
    margin-inline-end: auto;
  }
`;

const Stage = styled.div`
  overflow: hidden;
  border-top: 1px solid var(--line);
  background: var(--mist);
`;

const Frame = styled.iframe<{ $width: number; $scale: number }>`
  display: block;
  border: 0;
  margin-inline: auto;
  width: ${({ $width }) => $width}px;
  max-width: ${({ $scale }) => 100 / $scale}%;
  height: ${({ $scale }) => 100 / $scale}%;
  transform: scale(${({ $scale }) => $scale});
  transform-origin: 0 0;
`;

interface Kept {
  answers: object;
  page: string;
  edition: number;
}

const nameOf = (id: string) => `jotgate /try/${id}`;

/** What the page has kept of what is being answered in it. */
function kept(id: string): Kept | null {
  try {
    return JSON.parse(window.sessionStorage.getItem(nameOf(id)) ?? "null") as Kept | null;
  } catch {
    return null;
  }
}

/** Hand answers to the page, which takes them up when it is loaded; null for a new start. */
function hand(id: string, given: Kept | null): void {
  const whole = given && { ...given, submission: randomHex(16) };
  if (whole) window.sessionStorage.setItem(nameOf(id), JSON.stringify(whole));
  else window.sessionStorage.removeItem(nameOf(id));
}

interface TryPaneProps extends ScriptPart {
  width: Width;
  onWidth: (width: Width) => void;
  onClose: () => void;
}

export function TryPane({ draft, spot, width, onWidth, onClose }: TryPaneProps) {
  const { id, doc, revision, saving, faults } = draft;
  const [start, setStart] = useState("");
  const [round, setRound] = useState(0);
  const [shown, setShown] = useState(revision);
  const here = doc.pages[spot.on === "page" ? spot.page : 0]?.key;
  const page = doc.pages.some(({ key }) => key === start) ? start : (here ?? "");
  const ready = saving === "saved" && faults.length === 0;
  if (ready && shown !== revision) setShown(revision);
  const again = (given: Kept | null) => {
    hand(id, given);
    setRound((before) => before + 1);
  };
  const close = useRef<HTMLDivElement>(null);
  useEffect(() => close.current?.querySelector("button")?.focus(), []);
  const filling = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/trial/answers", {
          params: { path: { id } },
          body: { link: "", page, seed: Math.floor(Math.random() * 2 ** 31) },
        }),
      ),
    onSuccess: ({ answers, page: at, revision: edition }) => again({ answers, page: at, edition }),
  });
  const { page: wide, pane } = WIDTHS[width];
  return (
    <Pane aria-label="Try it" data-region="bench">
      <Head ref={close}>
        <h2>Try it</h2>
        <Choose
          name="Width"
          value={width}
          options={[
            { code: "phone", label: "Phone" },
            { code: "desk", label: "Desk" },
          ]}
          onChange={(code) => onWidth(code as Width)}
        />
        <Button weight="word" onPress={() => window.open(`/try/${id}`, "_blank")}>
          Own window
        </Button>
        <Button onPress={onClose}>Close</Button>
      </Head>
      <Head style={{ paddingBlockStart: 0 }}>
        <Choose
          name="Page"
          value={page}
          options={doc.pages.map(({ key, title }, number) => ({
            code: key,
            label: `${number + 1} ${say(doc, title)}`,
          }))}
          onChange={(key) => {
            setStart(key);
            again({ answers: kept(id)?.answers ?? {}, page: key, edition: revision });
          }}
        />
        <Button
          isDisabled={!ready}
          onPress={() => {
            // Not disabled while it waits: that would take the focus away.
            if (!filling.isPending) filling.mutate();
          }}
        >
          Made-up answers
        </Button>
        <Button weight="word" onPress={() => again(null)}>
          Start again
        </Button>
        {filling.error ? <Strip tone="wrong">{filling.error.message}</Strip> : null}
      </Head>
      <Stage>
        <Frame
          key={`${round} ${width} ${shown}`}
          title="The questionnaire as visitors see it"
          src={`/try/${id}`}
          $width={wide}
          $scale={pane / wide}
        />
      </Stage>
    </Pane>
  );
}
