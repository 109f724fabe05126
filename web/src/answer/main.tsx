/** The public answering page comes alive. What it shows first stands in the HTML already. */
import { createRoot, hydrateRoot } from "react-dom/client";

import { inPage, rememberToken } from "../client/client";
import fonts from "../ui/fonts.css?url";
import { App, type First } from "./App";
import { takeArrival } from "./arrival";
import { readTabDraft } from "./saved/tabDraft";
import { arrive, cameByLetter, isStarted, linkOfStarted, secretInUse } from "./saved/savedEntry";
import { restoreStyles } from "./styles";
import { doneSoFar } from "./typed";

const first = inPage() as First;
if (first.trial) rememberToken(first.trial.csrf);
takeArrival(first.arrival);
arrive();

/** A letter's link says only who goes on; the link that they first came by is kept for them. */
async function showPage(root: HTMLElement): Promise<void> {
  const link = cameByLetter ? await linkOfStarted() : null;
  if (link && `?${link}` !== window.location.search) {
    window.location.replace(`${window.location.pathname}?${link}#on=${secretInUse()}`);
    return;
  }
  if (root.hasChildNodes() && !readTabDraft() && !isStarted()) {
    restoreStyles(root);
    hydrateRoot(root, <App first={first} onAlive={doneSoFar(root)} />);
  } else createRoot(root).render(<App first={first} />);
}

/** The letters of the house come last: nothing waits for them. */
function loadFonts(): void {
  const link = document.createElement("link");
  link.rel = "stylesheet";
  link.href = fonts;
  document.head.append(link);
}

/** In a frame on another site: tell that page how high this one is, so that its frame follows. */
function tellHeight(): void {
  if (window.parent === window || first.trial) return;
  const tell = () => {
    const { height } = document.body.getBoundingClientRect();
    window.parent.postMessage({ jotgate: { height } }, "*");
  };
  new ResizeObserver(tell).observe(document.body);
}

const root = document.getElementById("app");
tellHeight();
if (root) void showPage(root).then(loadFonts);
