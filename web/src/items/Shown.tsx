/** What a page only shows: notes, pictures, videos, computed values. */
import styled from "styled-components";

import type { Item } from "./answer";
import { useSay } from "./words";

/** HTML that the server made from CommonMark. */
export const Formatted = styled.div`
  color: var(--ink-2);
  overflow-wrap: anywhere;
  > * + * {
    margin-top: 8px;
  }
  ul,
  ol {
    list-style: revert;
    padding-inline-start: 1.4em;
  }
  h3,
  h4 {
    color: var(--ink);
    font-size: 18px;
  }
  blockquote {
    margin: 8px 0 0;
    border-inline-start: 3px solid var(--line-2);
    padding-inline-start: 12px;
  }
`;

const Figure = styled.figure`
  margin: 0;
  img,
  video {
    display: block;
    max-width: 100%;
    height: auto;
    border-radius: 4px;
    background: var(--mist);
  }
  figcaption,
  details {
    color: var(--ink-2);
    margin-top: 6px;
    white-space: pre-line;
  }
  summary {
    color: var(--accent);
    font-weight: 600;
    cursor: pointer;
  }
`;

const Value = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  justify-content: space-between;
  border-block: 1px solid var(--line);
  padding: 10px 0;
  output {
    font-weight: 700;
  }
`;

export function Note({ item }: { item: Item }) {
  // The server made this HTML from CommonMark and left nothing in it that acts.
  return <Formatted dangerouslySetInnerHTML={{ __html: item.html ?? "" }} />;
}

export function Picture({ item }: { item: Item }) {
  if (!item.media) return null;
  return (
    <Figure>
      <img
        src={item.media}
        alt={item.text}
        width={item.width ?? undefined}
        height={item.height ?? undefined}
      />
      {item.caption ? <figcaption>{item.caption}</figcaption> : null}
    </Figure>
  );
}

export function Video({ item }: { item: Item }) {
  const say = useSay();
  if (!item.media) return null;
  return (
    <Figure aria-label={item.text}>
      {/* One without captions has what is said in words below: publishing asks for either. */}
      {/* eslint-disable-next-line jsx-a11y/media-has-caption */}
      <video src={item.media} controls preload="metadata" aria-label={item.text}>
        {item.captions ? <track kind="captions" src={item.captions} default /> : null}
      </video>
      <figcaption>{item.text}</figcaption>
      {item.spoken ? (
        <details>
          <summary>{say("spoken")}</summary>
          {item.spoken}
        </details>
      ) : null}
    </Figure>
  );
}

export function Computed({ item }: { item: Item }) {
  return (
    <Value>
      <span>{item.text}</span>
      <output aria-label={item.text}>{item.value || "–"}</output>
    </Value>
  );
}
