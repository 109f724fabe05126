/** Pick a number on a line whose ends are in words. */
import {
  RadioButton,
  RadioField,
  RadioGroup,
  type RadioGroupProps,
} from "react-aria-components/RadioGroup";
import type { ReactNode } from "react";
import styled from "styled-components";

import { Failure, FieldName, Help } from "./Field";

/** As wide as the points, so that the words stand at their ends. */
const Width = styled.div`
  width: fit-content;
  max-width: 100%;
`;

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 8px;
`;

const One = styled(RadioButton)`
  display: grid;
  place-items: center;
  min-width: 46px;
  min-height: 46px;
  border: 1.5px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  font-weight: 600;
  cursor: pointer;
  &[data-selected] {
    border-color: var(--accent);
    background: var(--accent);
    color: var(--on-accent);
  }
  &[data-focus-visible] {
    outline: 2.5px solid var(--flax);
    outline-offset: 2px;
  }
  @media (forced-colors: active) {
    &[data-selected] {
      outline: 3px solid Highlight;
    }
  }
`;

const Ends = styled.p`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 2px 16px;
  color: var(--ink-2);
  margin-top: 4px;
`;

export interface ScaleProps extends Omit<RadioGroupProps, "children"> {
  label: ReactNode;
  help?: string | undefined;
  error?: string | undefined;
  low: number;
  high: number;
  lowLabel: string;
  highLabel: string;
}

/** A point's name: at an end, with the words of that end. */
function pointName({ low, high, lowLabel, highLabel }: ScaleProps, point: number): string {
  const words = point === low ? lowLabel : point === high ? highLabel : "";
  return words ? `${point}, ${words}` : String(point);
}

export function Scale(props: ScaleProps) {
  const { label, help, error, low, high, lowLabel, highLabel, ...rest } = props;
  const points = Array.from({ length: high - low + 1 }, (_, step) => low + step);
  return (
    <RadioGroup
      {...rest}
      isInvalid={Boolean(error)}
      validationBehavior="aria"
      orientation="horizontal"
    >
      <FieldName>{label}</FieldName>
      {help ? <Help>{help}</Help> : null}
      <Width>
        <Line>
          {points.map((point) => (
            <RadioField key={point} value={String(point)} aria-label={pointName(props, point)}>
              <One>{point}</One>
            </RadioField>
          ))}
        </Line>
        {lowLabel || highLabel ? (
          <Ends aria-hidden="true">
            <span>
              {low} {lowLabel}
            </span>
            <span>
              {high} {highLabel}
            </span>
          </Ends>
        ) : null}
      </Width>
      <Failure>{error}</Failure>
    </RadioGroup>
  );
}
