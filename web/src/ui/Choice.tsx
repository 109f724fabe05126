/** Pick one of a few that all stand in view. */
import {
  RadioButton,
  RadioField,
  RadioGroup,
  type RadioGroupProps,
} from "react-aria-components/RadioGroup";
import type { ReactNode } from "react";
import styled, { css } from "styled-components";

import { Failure, FieldName, Help } from "./Field";

/** A row that is picked: shared with picking many. */
export const choiceRow = css`
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 46px;
  border: 1.5px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  padding: 9px 14px;
  margin-top: 8px;
  cursor: pointer;
  overflow-wrap: anywhere;
  &::before {
    content: "";
    flex: none;
    width: 20px;
    height: 20px;
    border: 2px solid var(--ink-2);
  }
  &[data-selected] {
    border-color: var(--loden);
    background: var(--loden-soft);
    box-shadow: inset 0 0 0 1px var(--loden);
  }
  &[data-selected]::before {
    border-color: var(--loden);
    background: var(--loden);
    box-shadow: inset 0 0 0 3px var(--paper);
  }
  &[data-focus-visible] {
    outline: 2.5px solid var(--flax);
    outline-offset: 2px;
  }
  @media (forced-colors: active) {
    &[data-selected]::before {
      background: Highlight;
      forced-color-adjust: none;
    }
  }
`;

const One = styled(RadioButton)`
  ${choiceRow}
  &::before {
    border-radius: 50%;
  }
`;

export interface ChoiceProps extends Omit<RadioGroupProps, "children"> {
  label: ReactNode;
  help?: string | undefined;
  error?: string | undefined;
  options: readonly { code: string; label: string }[];
}

export function Choice({ label, help, error, options, ...props }: ChoiceProps) {
  return (
    <RadioGroup {...props} isInvalid={Boolean(error)} validationBehavior="aria">
      <FieldName>{label}</FieldName>
      {help ? <Help>{help}</Help> : null}
      {options.map((option) => (
        <RadioField key={option.code} value={option.code}>
          <One>{option.label}</One>
        </RadioField>
      ))}
      <Failure>{error}</Failure>
    </RadioGroup>
  );
}
