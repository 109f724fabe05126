/** The answering page, from what came inside the HTML; drawn on the server first, then here. */
import { StrictMode, useEffect } from "react";

import { WordsContext, type Words } from "../items/words";
import { Global } from "../ui/theme";
import { AnswerPage } from "./AnswerPage";
import { StaffContext, type Staff } from "./ByStaff";
import { Offered, type Language } from "./Frame";
import { LookContext, PLAIN, type Look } from "./look";
import type { Own } from "./saved/OwnEntry";
import { Refused } from "./gate/Refused";
import { Join } from "./gate/Join";
import { OptOut } from "./gate/OptOut";
import { TypedCode } from "./gate/TypedCode";
import { SignInContext, type Ways } from "./gate/SignIn";
import type { Page } from "./visit";

interface Refusal {
  kind?: undefined;
  code: string;
  detail: string;
  params?: Readonly<Record<string, string>>;
}

export interface First {
  language: string;
  words: Words["page"];
  failures: Words["failures"];
  languages?: readonly Language[];
  /** Names this submission, where the page needs one before it asks for it: for its shuffles. */
  submission?: string;
  /** What is known of the visitor, sealed. */
  arrival?: string;
  trial?: { csrf: string };
  own?: Own;
  staff?: Staff;
  look?: Partial<Look>;
  sign_in?: Ways["offered"];
  signed_in?: Ways["signedIn"];
  shown: Page | Refusal;
}

interface AppProps {
  first: First;
  /** Called once the fields answer to what people do. */
  onAlive?: () => void;
}

export function App({ first, onAlive }: AppProps) {
  useEffect(() => onAlive?.(), [onAlive]);
  const { language, words: page, failures, languages = [], submission, look, shown } = first;
  return (
    <StrictMode>
      <Global />
      <WordsContext.Provider value={{ language, page, failures }}>
        <Offered.Provider value={languages}>
          <LookContext.Provider value={{ ...PLAIN, ...look }}>
            <StaffContext.Provider value={first.staff ?? null}>
              <SignInContext.Provider
                value={{ offered: first.sign_in ?? [], signedIn: first.signed_in ?? null }}
              >
                {shown.kind === "page" ? (
                  <AnswerPage first={shown} submission={submission} own={first.own} />
                ) : shown.code === "join" ? (
                  <Join params={shown.params ?? {}} />
                ) : shown.code === "opt_out" ? (
                  <OptOut params={shown.params ?? {}} />
                ) : shown.code === "typed_code" ? (
                  <TypedCode params={shown.params ?? {}} />
                ) : (
                  <Refused {...shown} />
                )}
              </SignInContext.Provider>
            </StaffContext.Provider>
          </LookContext.Provider>
        </Offered.Provider>
      </WordsContext.Provider>
    </StrictMode>
  );
}
