/** A short field that stands in a sentence: its name is read out and not shown. */
import styled from "styled-components";

const Box = styled.input`
  border: 1px solid transparent;
  border-radius: 4px;
  background: var(--accent-soft);
  color: var(--ink);
  font-weight: 600;
  min-height: 28px;
  padding: 2px 8px;
  max-width: 100%;
  &[type="number"] {
    width: 8ch;
  }
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: 1px;
  }
  &:disabled {
    background: none;
    padding-inline: 0;
  }
`;

interface InSentenceProps {
  name: string;
  type: "number" | "date" | "time" | "datetime-local" | "text";
  value: string;
  onChange: (value: string) => void;
  min?: number;
  max?: number;
  placeholder?: string;
  isDisabled?: boolean;
  /** Characters that it has room for. */
  size?: number;
}

export function InSentence({ name, onChange, isDisabled = false, ...props }: InSentenceProps) {
  return (
    <Box
      {...props}
      aria-label={name}
      disabled={isDisabled}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
