/** Pick one of a few that all stand in view. */
import {
  RadioButton,
  RadioField,
  RadioGroup,
  type RadioGroupProps,
} from "react-aria-components/RadioGroup";
import { Fragment, type ReactNode } from "react";
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
    border-color: var(--accent);
    background: var(--accent-soft);
    box-shadow: inset 0 0 0 1px var(--accent);
  }
  &[data-selected]::before {
    border-color: var(--accent);
    background: var(--accent);
    box-shadow: inset 0 0 0 3px var(--paper);
  }
  &[data-focus-visible] {
    outline: 2.5px solid var(--flax);
    outline-offset: 2px;
  }
  &[data-disabled] {
    color: var(--ink-2);
    background: var(--mist);
    cursor: default;
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

/** Side by side, for short labels. */
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  label {
    min-width: 84px;
  }
`;

export interface ChoiceProps extends Omit<RadioGroupProps, "children"> {
  label: ReactNode;
  help?: string | undefined;
  error?: string | undefined;
  /** What is `full` can be left, and not picked anew. */
  options: readonly { code: string; label: string; full?: boolean }[];
  /** Options beside each other in place of one below the other. */
  across?: boolean;
  /** What belongs to the options, below them. */
  more?: ReactNode;
}

export function Choice({
  label,
  help,
  error,
  options,
  across = false,
  more,
  ...props
}: ChoiceProps) {
  const Rows = across ? Row : Fragment;
  return (
    <RadioGroup {...props} isInvalid={Boolean(error)} validationBehavior="aria">
      <FieldName>{label}</FieldName>
      {help ? <Help>{help}</Help> : null}
      <Rows>
        {options.map((option) => (
          <RadioField
            key={option.code}
            value={option.code}
            isDisabled={Boolean(option.full) && props.value !== option.code}
          >
            <One>{option.label}</One>
          </RadioField>
        ))}
      </Rows>
      {more}
      <Failure>{error}</Failure>
    </RadioGroup>
  );
}
