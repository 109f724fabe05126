/** Words that are edited where they stand: a field that looks like the text it holds. */
import type { Ref } from "react";
import styled from "styled-components";

const Box = styled.textarea`
  display: block;
  flex: 0 1 auto;
  width: 100%;
  @supports (field-sizing: content) {
    width: auto;
    min-width: 3ch;
    max-width: 100%;
    &:placeholder-shown {
      min-width: 14ch;
    }
  }
  border: 0;
  border-bottom: 1px dashed transparent;
  background: none;
  padding: 1px 0;
  margin: 0;
  resize: none;
  overflow: hidden;
  field-sizing: content;
  min-height: 1.5em;
  overflow-wrap: anywhere;
  &:hover {
    border-bottom-color: var(--line-2);
  }
  &::placeholder {
    color: var(--ink-3);
    opacity: 1;
  }
`;

export interface InlineProps {
  /** What the field is, read out. */
  name: string;
  value: string;
  onChange: (value: string) => void;
  placeholder?: string;
  onKeyDown?: (event: React.KeyboardEvent<HTMLTextAreaElement>) => void;
  onBlur?: () => void;
  onFocus?: () => void;
  ref?: Ref<HTMLTextAreaElement>;
  readOnly?: boolean;
  id?: string;
}

/** Several paragraphs; line breaks stay. */
export function Paragraphs({ name, onChange, ...props }: InlineProps) {
  return (
    <Box {...props} aria-label={name} rows={1} onChange={(event) => onChange(event.target.value)} />
  );
}

/** One paragraph; line breaks that are pasted become spaces. */
export function Inline({ name, onChange, ...props }: InlineProps) {
  return (
    <Box
      {...props}
      aria-label={name}
      rows={1}
      onChange={(event) => onChange(event.target.value.replace(/\s*\n\s*/g, " "))}
    />
  );
}
