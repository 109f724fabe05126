/** A text field: label, help, error and input in the order in which they are read. */
import { FieldError } from "react-aria-components/FieldError";
import { Input } from "react-aria-components/Input";
import { Label } from "react-aria-components/Label";
import { Text } from "react-aria-components/Text";
import { TextArea } from "react-aria-components/TextArea";
import { TextField, type TextFieldProps } from "react-aria-components/TextField";
import type { ReactNode } from "react";
import styled, { css } from "styled-components";

/** Marks the name of a question, which a grid shows once for a whole column. */
const NAMED = { "data-name": true } as object;

/** What a field or a group is called, above it. */
export const FieldName = styled(Label).attrs(NAMED)`
  font-weight: 600;
  display: block;
`;

export const fieldBox = css`
  width: 100%;
  border: 1px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  color: var(--ink);
  padding: 6px 9px;
  &::placeholder {
    color: var(--ink-3);
    opacity: 1;
  }
  &[data-focused] {
    outline: 2.5px solid var(--flax);
    outline-offset: 1px;
  }
  &[data-invalid],
  &[aria-invalid="true"] {
    border-color: var(--rust);
    box-shadow: 0 0 0 1px var(--rust);
  }
`;

export const Help = styled(Text).attrs({ slot: "description" })`
  display: block;
  color: var(--ink-2);
  margin: 1px 0 2px;
`;

export const Failure = styled(FieldError)`
  display: block;
  color: var(--rust);
  font-weight: 600;
  margin-top: 4px;
`;

const Whole = styled(TextField)`
  display: block;
`;

const Line = styled(Input)`
  ${fieldBox}
  min-height: var(--field-height, 34px);
`;

const WithUnit = styled.span<{ $narrow: boolean }>`
  display: flex;
  gap: 8px;
  align-items: center;
  color: var(--ink-2);
  white-space: nowrap;
  input {
    max-width: ${({ $narrow }) => ($narrow ? "240px" : "none")};
    min-width: 0;
  }
`;

const Lines = styled(TextArea)`
  ${fieldBox}
  resize: vertical;
  min-height: 5.5em;
`;

export interface FieldProps extends Omit<TextFieldProps, "children"> {
  label: ReactNode;
  help?: string | undefined;
  error?: string | undefined;
  placeholder?: string | undefined;
  /** How many lines the field shows; 1 makes it a single line. */
  lines?: number;
  /** The range of a date or a time, which the browser's own picker keeps to. */
  min?: string | undefined;
  max?: string | undefined;
  /** What the number is in, behind the field. */
  unit?: string | undefined;
  /** For short answers: numbers, days and times. */
  narrow?: boolean;
}

export function Field({
  label,
  help,
  error,
  placeholder,
  lines = 1,
  min,
  max,
  unit,
  narrow = false,
  dir,
  ...props
}: FieldProps) {
  return (
    <Whole {...props} isInvalid={Boolean(error)} validationBehavior="aria">
      <FieldName>{label}</FieldName>
      {help ? <Help>{help}</Help> : null}
      {lines > 1 ? (
        <Lines rows={lines} placeholder={placeholder} />
      ) : (
        <WithUnit $narrow={narrow}>
          <Line dir={dir} placeholder={placeholder} min={min} max={max} />
          {unit}
        </WithUnit>
      )}
      <Failure>{error}</Failure>
    </Whole>
  );
}
