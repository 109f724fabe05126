/** A list that opens, as light as the browser's own: for lists with many of them. */
import styled from "styled-components";

const Box = styled.select`
  border: 1px solid transparent;
  border-radius: 4px;
  background: var(--accent-soft);
  color: var(--ink);
  font-weight: 600;
  min-height: 28px;
  padding: 2px 6px;
  max-width: 100%;
  cursor: pointer;
`;

interface ChooseProps {
  name: string;
  value: string;
  options: readonly { code: string; label: string }[];
  onChange: (code: string) => void;
}

export function Choose({ name, value, options, onChange }: ChooseProps) {
  return (
    <Box aria-label={name} value={value} onChange={(event) => onChange(event.target.value)}>
      {options.map(({ code, label }) => (
        <option key={code} value={code}>
          {label}
        </option>
      ))}
    </Box>
  );
}
