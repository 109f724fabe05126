/** A status as it stands in tables and lists: its shape, in the colour of its meaning, and its
 * name. */
import type { ReactNode } from "react";
import styled from "styled-components";

import type { Looks } from "../handling";

type Glyph = Looks["glyph"];
type Tone = Looks["tone"];

const SHAPES: Readonly<Record<Glyph, ReactNode>> = {
  ring: <circle cx="8" cy="8" r="5" fill="none" strokeWidth="2.2" />,
  dot: <circle cx="8" cy="8" r="5.6" stroke="none" />,
  half: (
    <>
      <circle cx="8" cy="8" r="5" fill="none" strokeWidth="1.8" />
      <path d="M8 3a5 5 0 0 1 0 10z" stroke="none" />
    </>
  ),
  square: <path d="M3 3h10v10H3z" stroke="none" />,
  triangle: <path d="M8 2.4 14 13.4H2z" stroke="none" />,
  diamond: <path d="M8 1.6 14.4 8 8 14.4 1.6 8z" stroke="none" />,
  bars: <path d="M4.5 3v10M8 3v10M11.5 3v10" fill="none" strokeWidth="2.2" />,
  flag: <path d="M4 15V2h9l-2.4 3.4L13 9H5.6v6z" stroke="none" />,
  tick: <path d="m2.6 8.6 3.6 3.8 7.2-8.6" fill="none" strokeWidth="2.4" />,
  cross: <path d="m3.6 3.6 8.8 8.8m0-8.8-8.8 8.8" fill="none" strokeWidth="2.4" />,
};

export const GLYPHS = Object.keys(SHAPES) as Glyph[];

/** What shapes are called where they are chosen. */
export const GLYPH_NAMES: Readonly<Record<Glyph, string>> = {
  ring: "ring",
  dot: "dot",
  half: "half-filled circle",
  square: "square",
  triangle: "triangle",
  diamond: "diamond",
  bars: "three bars",
  flag: "flag",
  tick: "tick",
  cross: "cross",
};

const COLOURS: Readonly<Record<Tone, string>> = {
  plain: "var(--ink-2)",
  new: "var(--flax)",
  going: "var(--accent-mid)",
  waiting: "var(--ochre)",
  good: "var(--accent)",
  bad: "var(--rust)",
};

export const toneColour = (tone: Tone): string => COLOURS[tone];

export const TONE_NAMES: Readonly<Record<Tone, string>> = {
  plain: "nothing special",
  new: "just came in",
  going: "being worked on",
  waiting: "waits for somebody",
  good: "went well",
  bad: "went wrong",
};

export function StatusGlyph({ glyph, tone, size = 13 }: Omit<Looks, "name"> & { size?: number }) {
  const colour = toneColour(tone);
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      fill={colour}
      stroke={colour}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden="true"
    >
      {SHAPES[glyph]}
    </svg>
  );
}

const Mark = styled.span`
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-width: 0;
  svg {
    flex: none;
  }
`;

export function StatusMark({ status, children }: { status: Looks; children?: ReactNode }) {
  return (
    <Mark>
      <StatusGlyph glyph={status.glyph} tone={status.tone} />
      {status.name}
      {children}
    </Mark>
  );
}
