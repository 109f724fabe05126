/** Draws the answering page on the server: its words and fields stand in the HTML. */
import { renderToString } from "react-dom/server";
import { ServerStyleSheet } from "styled-components";

import { App, type First } from "./App";
import { withoutStyles } from "./styles";

/** HTML and style elements of the page that starts with `first`. */
export function draw(first: First): { html: string; styles: string } {
  const sheet = new ServerStyleSheet();
  try {
    const drawn = renderToString(sheet.collectStyles(<App first={first} />));
    const { html, rules } = withoutStyles(drawn);
    return { html, styles: `${sheet.getStyleTags()}<style>${rules}</style>` };
  } finally {
    sheet.seal();
  }
}
