/** A walk-through in words: what is answered on each page, and where it leads. */
import styled from "styled-components";

import type { Schema } from "../../client/client";

export type WalkThrough = Schema<"WalkThroughOut">;

const Legs = styled.ol`
  display: grid;
  gap: 8px;
  b,
  dt {
    overflow-wrap: anywhere;
  }
  dl {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 1px 10px;
    font-size: 13.5px;
    color: var(--ink-2);
  }
  dd {
    margin: 0;
    color: var(--ink);
    overflow-wrap: anywhere;
  }
`;

export function WalkLegs({ walk }: { walk: WalkThrough }) {
  return (
    <Legs>
      {walk.link.length ? (
        <li>
          <b>Arrives with</b>
          <dl>
            {walk.link.map(({ key, value }) => (
              <div key={key} style={{ display: "contents" }}>
                <dt>{key}</dt>
                <dd>{value}</dd>
              </div>
            ))}
          </dl>
        </li>
      ) : null}
      {walk.legs.map((leg) => (
        <li key={leg.page}>
          <b>{leg.title}</b>
          <dl>
            {leg.answers.map((one) => (
              <div key={one.key} style={{ display: "contents" }}>
                <dt>{one.question || one.key}</dt>
                <dd>{one.answer || "left out"}</dd>
              </div>
            ))}
          </dl>
          <small>
            {leg.rule ? `Rule ${leg.rule} leads on: ` : "Then: "}
            {leg.then}
          </small>
        </li>
      ))}
    </Legs>
  );
}
