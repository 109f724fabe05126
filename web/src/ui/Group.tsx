/** A question with several fields: its name, help and error stand above and below them. */
import { useId, type ReactNode } from "react";
import styled from "styled-components";

const Name = styled.div`
  font-weight: 600;
`;

const Help = styled.p`
  color: var(--ink-2);
  margin: 1px 0 2px;
`;

/** What is wrong, below the field that says so. */
export const Wrong = styled.p`
  color: var(--rust);
  font-weight: 600;
  margin-top: 4px;
`;

export interface GroupProps {
  id: string;
  label: ReactNode;
  help?: ReactNode;
  error?: string | undefined;
  children: ReactNode;
}

export function Group({ id, label, help, error, children }: GroupProps) {
  const own = useId();
  const about = [help ? `${own}-help` : "", error ? `${own}-error` : ""].filter(Boolean).join(" ");
  return (
    <div
      id={id}
      role="group"
      tabIndex={-1}
      aria-labelledby={`${own}-name`}
      aria-describedby={about || undefined}
      style={{ outline: "none" }}
    >
      <Name id={`${own}-name`} data-name>
        {label}
      </Name>
      {help ? <Help id={`${own}-help`}>{help}</Help> : null}
      {children}
      {error ? <Wrong id={`${own}-error`}>{error}</Wrong> : null}
    </div>
  );
}
