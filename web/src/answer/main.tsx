/** The public answering page. What it shows first came inside the HTML. */
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { inPage } from "../client/client";
import { Global } from "../ui/theme";
import { AnswerPage } from "./AnswerPage";
import { Refused } from "./Refused";
import type { Page } from "./visit";

type First = Page | { kind?: undefined; code: string; detail: string };

const first = inPage() as First;
const root = document.getElementById("app");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <Global />
      {first.kind === "page" ? <AnswerPage first={first} /> : <Refused {...first} />}
    </StrictMode>,
  );
}
