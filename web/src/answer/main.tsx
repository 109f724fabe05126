/** The public answering page. What it shows first came inside the HTML. */
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { inPage, rememberToken } from "../client/client";
import { WordsContext, type Words } from "../items/words";
import { Global } from "../ui/theme";
import { AnswerPage } from "./AnswerPage";
import { Offered, type Language } from "./Frame";
import { LookContext, PLAIN, type Look } from "./look";
import { Refused } from "./Refused";
import { cameByLetter, linkOfStarted, secretInUse } from "./started";
import type { Page } from "./visit";

interface First {
  language: string;
  words: Words["page"];
  failures: Words["failures"];
  languages: readonly Language[];
  trial?: { csrf: string };
  look?: Partial<Look>;
  shown: Page | { kind?: undefined; code: string; detail: string };
}

const { language, words: page, failures, languages, shown, trial, look } = inPage() as First;
if (trial) rememberToken(trial.csrf);
const words = { language, page, failures };

/** A letter's link says only who goes on; the link that they first came by is kept for them. */
async function showPage(root: HTMLElement): Promise<void> {
  const link = cameByLetter ? await linkOfStarted() : null;
  if (link && `?${link}` !== window.location.search) {
    window.location.replace(`${window.location.pathname}?${link}#on=${secretInUse()}`);
    return;
  }
  createRoot(root).render(
    <StrictMode>
      <Global />
      <WordsContext.Provider value={words}>
        <Offered.Provider value={languages}>
          <LookContext.Provider value={{ ...PLAIN, ...look }}>
            {shown.kind === "page" ? <AnswerPage first={shown} /> : <Refused {...shown} />}
          </LookContext.Provider>
        </Offered.Provider>
      </WordsContext.Provider>
    </StrictMode>,
  );
}

const root = document.getElementById("app");
if (root) void showPage(root);
