/** The page's own words, in the language of the one who reads it. */
import { createContext, useContext } from "react";

export interface Words {
  /** Language tag (BCP 47), for numbers and the page itself. */
  language: string;
  page: Readonly<Record<string, string>>;
  /** Messages of failed checks, by code. */
  failures: Readonly<Record<string, string>>;
}

export const WordsContext = createContext<Words>({ language: "en", page: {}, failures: {} });

export type Params = Readonly<Record<string, string | number>>;

/** `template` with each `{name}` replaced. */
export function fill(template: string, params: Params = {}): string {
  return template.replace(/\{(\w+)\}/g, (whole, name: string) =>
    name in params ? String(params[name]) : whole,
  );
}

export type Say = (key: string, params?: Params) => string;

/** A function that says a word of the page, with its slots filled in. */
export function useSay(): Say {
  const { page } = useContext(WordsContext);
  return (key, params) => fill(page[key] ?? key, params);
}
