/** On or off, at once. */
import { SwitchButton, SwitchField, type SwitchFieldProps } from "react-aria-components/Switch";
import type { ReactNode } from "react";
import styled from "styled-components";

const Whole = styled(SwitchButton)`
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
  padding: 4px 0;
  min-height: 30px;
  cursor: pointer;
  &::after {
    content: "";
    flex: none;
    width: 34px;
    height: 18px;
    border-radius: 9px;
    border: 1px solid var(--edge);
    background: radial-gradient(circle at 8px 50%, var(--paper) 6px, transparent 6.5px) var(--edge);
  }
  &[data-selected]::after {
    border-color: var(--accent);
    background: radial-gradient(circle at 24px 50%, var(--paper) 6px, transparent 6.5px)
      var(--accent);
  }
  &[data-focus-visible] {
    outline: 2.5px solid var(--flax);
    outline-offset: 2px;
    border-radius: 3px;
  }
  &[data-disabled] {
    opacity: 0.6;
    cursor: default;
  }
`;

export function Toggle({
  children,
  ...props
}: Omit<SwitchFieldProps, "children"> & { children: ReactNode }) {
  return (
    <SwitchField {...props}>
      <Whole>{children}</Whole>
    </SwitchField>
  );
}
