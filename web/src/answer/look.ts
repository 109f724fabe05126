/** How this questionnaire looks; it came inside the HTML. */
import { createContext } from "react";

/** One accent by role: itself, under the pointer, as a wash, in between, and words on it. */
export interface Accent {
  main: string;
  hover: string;
  soft: string;
  mid: string;
  on: string;
}

export interface HeaderPicture {
  src: string;
  width: number;
  height: number;
  text?: string;
  /** Beside the questions, where there is room for both. */
  beside?: boolean;
}

export interface Look {
  /** The accent on a light and on a dark page, null for the one that the page has of itself. */
  light: Accent | null;
  dark: Accent | null;
  picture: HeaderPicture | null;
  progress: boolean;
  /** Whether the questions of a page are asked one after another. */
  one_by_one: boolean;
  wide: boolean;
  /** Clean HTML, made by the server. */
  introduction: string;
  /** Words of the office at the foot: clean HTML; addresses of its imprint and privacy pages. */
  foot: string;
  imprint: string;
  privacy: string;
  /** The mail address to ask at, where nothing can be answered. */
  ask: string;
}

export const PLAIN: Look = {
  light: null,
  dark: null,
  picture: null,
  progress: true,
  one_by_one: false,
  wide: false,
  introduction: "",
  foot: "",
  imprint: "",
  privacy: "",
  ask: "",
};

export const LookContext = createContext<Look>(PLAIN);

/** The CSS properties of an accent; none where there is none. */
export function properties(accent: Accent | null): string {
  if (!accent) return "";
  const { main, hover, soft, mid, on } = accent;
  return `--accent: ${main}; --accent-hover: ${hover}; --accent-soft: ${soft}; --accent-mid: ${mid}; --on-accent: ${on};`;
}
