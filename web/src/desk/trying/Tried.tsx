/** The public page in a frame, as it is tried in the desk, and the answers handed to it. */
import styled from "styled-components";

import { randomHex } from "../../client/random";
import { Side } from "../shell/Section";

/** How wide the page believes to be, in pixels, and how wide the pane is. */
const WIDTHS = {
  phone: { page: 390, pane: 390 },
  desk: { page: 1024, pane: 640 },
} as const;

export type Width = keyof typeof WIDTHS;

export const Pane = styled(Side)`
  overflow: hidden;
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  @media (max-width: 1080px) {
    height: 100vh;
  }
`;

export const Head = styled.div`
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

export interface TabDraft {
  answers: object;
  page: string;
  /** The question at which it begins, where they are asked one by one. */
  at?: string;
  edition: number;
}

const nameOf = (id: string) => `jotgate /try/${id}`;

/** What the page has kept of what is being answered in it. */
export function tabDraftOf(id: string): TabDraft | null {
  try {
    return JSON.parse(window.sessionStorage.getItem(nameOf(id)) ?? "null") as TabDraft | null;
  } catch {
    return null;
  }
}

/** Hand answers to the page, which takes them up when it is loaded; null for a new start. */
export function hand(id: string, given: TabDraft | null): void {
  const whole = given && { ...given, submission: randomHex(16) };
  if (whole) window.sessionStorage.setItem(nameOf(id), JSON.stringify(whole));
  else window.sessionStorage.removeItem(nameOf(id));
}

export const paneWidth = (width: Width): number => WIDTHS[width].pane;

interface TriedProps {
  id: string;
  width: Width;
  /** A new one loads the page anew. */
  round: string;
  /** What the visitor arrives with: the query string of the link. */
  link?: string;
}

export function Tried({ id, width, round, link = "" }: TriedProps) {
  const { page, pane } = WIDTHS[width];
  return (
    <Stage>
      <Frame
        key={round}
        title="The questionnaire as visitors see it"
        src={`/try/${id}${link && `?${link}`}`}
        $width={page}
        $scale={pane / page}
      />
    </Stage>
  );
}
