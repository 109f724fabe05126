/** How options and rows are listed: words, code, marks, a button, on one line each. */
import styled from "styled-components";

export const CodedList = styled.ol<{ $columns: string }>`
  margin-top: 6px;
  li {
    display: grid;
    grid-template-columns: ${({ $columns }) => $columns};
    gap: 8px;
    align-items: center;
    border-bottom: 1px dotted var(--line-2);
  }
  input {
    width: 100%;
    border: 0;
    background: none;
    padding: 4px 0;
    min-height: 28px;
  }
  li input + input {
    font: 12.5px var(--mono);
    color: var(--ink-2);
  }
`;

/** Something that holds of an option or a row, or does not. */
export const Mark = styled.button.attrs({ type: "button" })`
  border: 1px solid var(--line-2);
  border-radius: 3px;
  background: none;
  color: var(--ink-2);
  font-size: 12.5px;
  min-height: 24px;
  padding: 0 7px;
  cursor: pointer;
  &[aria-pressed="true"] {
    background: var(--accent);
    border-color: var(--accent);
    color: var(--on-accent);
  }
`;
