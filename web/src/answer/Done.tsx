/** What the finish says. */
import { useEffect, useRef } from "react";
import styled from "styled-components";

import { Frame, Paper } from "./Frame";
import type { Finish } from "./visit";

const Message = styled.p`
  margin-top: 10px;
  white-space: pre-line;
`;

export function Done({ title, finish }: { title: string; finish: Finish }) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  return (
    <Frame title={title} progress={1}>
      <Paper>
        <h1 ref={heading} tabIndex={-1}>
          {finish.heading}
        </h1>
        <Message>{finish.message}</Message>
        {finish.onward ? (
          <p>
            <a href={finish.onward.address} rel="noreferrer">
              {finish.onward.label}
            </a>
          </p>
        ) : null}
      </Paper>
    </Frame>
  );
}
