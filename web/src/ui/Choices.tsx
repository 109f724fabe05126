/** Pick any number of what stands in view. */
import { CheckboxButton, CheckboxField } from "react-aria-components/Checkbox";
import { CheckboxGroup, type CheckboxGroupProps } from "react-aria-components/CheckboxGroup";
import type { ReactNode } from "react";
import styled from "styled-components";

import { choiceRow } from "./Choice";
import { Failure, FieldName, Help } from "./Field";

const One = styled(CheckboxButton)`
  ${choiceRow}
  &::before {
    border-radius: 3px;
  }
`;

export interface ChoicesProps extends Omit<CheckboxGroupProps, "children"> {
  label: ReactNode;
  help?: string | undefined;
  error?: string | undefined;
  /** What is `full` can be left, and not picked anew. */
  options: readonly { code: string; label: string; full?: boolean }[];
  /** What belongs to the options, below them. */
  more?: ReactNode;
}

export function Choices({ label, help, error, options, more, ...props }: ChoicesProps) {
  return (
    <CheckboxGroup {...props} isInvalid={Boolean(error)} validationBehavior="aria">
      <FieldName>{label}</FieldName>
      {help ? <Help>{help}</Help> : null}
      {options.map((option) => (
        <CheckboxField
          key={option.code}
          value={option.code}
          isDisabled={Boolean(option.full) && !props.value?.includes(option.code)}
        >
          <One>{option.label}</One>
        </CheckboxField>
      ))}
      {more}
      <Failure>{error}</Failure>
    </CheckboxGroup>
  );
}
