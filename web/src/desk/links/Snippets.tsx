/** What is put into a web page of one's own: a button, and a frame whose height follows. */
import styled from "styled-components";

import { say, type Doc } from "../document";

const Code = styled.textarea`
  width: 100%;
  font: 13px var(--mono);
  border: 1px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  color: var(--ink);
  padding: 8px 10px;
  resize: vertical;
`;

const escaped = (text: string) =>
  text.replace(/[&<>"]/g, (one) => `&#${String(one.codePointAt(0))};`);

/** The address with no more of the page that it stands on than the browser tells by itself. */
const button = (address: string, title: string) =>
  `<a href="${escaped(address)}" rel="noopener">${escaped(title)}</a>`;

const frame = (address: string, title: string) => {
  const script = new URL("/embed.js", address).href;
  return [
    `<iframe src="${escaped(address)}" title="${escaped(title)}"`,
    `  style="width: 100%; border: 0; height: 640px"></iframe>`,
    `<script src="${escaped(script)}" async></script>`,
  ].join("\n");
};

interface SnippetsProps {
  doc: Doc;
  address: string;
  framed: boolean;
}

export function Snippets({ doc, address, framed }: SnippetsProps) {
  const title = say(doc, doc.title);
  return (
    <>
      <h3>A button</h3>
      <Code readOnly rows={2} aria-label="A button" value={button(address, title)} />
      <h3>A frame</h3>
      {framed ? (
        <Code readOnly rows={4} aria-label="A frame" value={frame(address, title)} />
      ) : (
        <p>Name the sites above first.</p>
      )}
    </>
  );
}
