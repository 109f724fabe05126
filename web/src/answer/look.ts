/** How this questionnaire looks; it came inside the HTML. */
import { createContext } from "react";

export interface Look {
  /** The accent on a light and on a dark page, by CSS property. */
  light: Readonly<Record<string, string>>;
  dark: Readonly<Record<string, string>>;
  picture: { src: string; width: number; height: number; text?: string } | null;
  progress: boolean;
  /** Clean HTML, made by the server. */
  introduction: string;
}

export const PLAIN: Look = { light: {}, dark: {}, picture: null, progress: true, introduction: "" };

export const LookContext = createContext<Look>(PLAIN);

/** CSS of these properties. */
export function properties(values: Readonly<Record<string, string>>): string {
  return Object.entries(values)
    .map(([name, value]) => `${name}: ${value};`)
    .join(" ");
}
