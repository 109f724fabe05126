/** Pick one from a list that opens. In a sentence its name is read out and not shown. */
import { Button } from "react-aria-components/Button";
import { Header, ListBox, ListBoxItem, ListBoxSection } from "react-aria-components/ListBox";
import { Popover } from "react-aria-components/Popover";
import { Select, SelectValue } from "react-aria-components/Select";
import { Text } from "react-aria-components/Text";
import type { ReactNode } from "react";
import styled, { css } from "styled-components";

import { FieldName } from "./Field";

const Whole = styled(Select)<{ $inline: boolean }>`
  ${({ $inline }) =>
    $inline
      ? css`
          display: inline-block;
          max-width: 100%;
        `
      : css`
          display: block;
        `}
`;

const Open = styled(Button)<{ $inline: boolean }>`
  display: inline-flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  border-radius: 4px;
  cursor: pointer;
  text-align: start;
  max-width: 100%;
  ${({ $inline }) =>
    $inline
      ? css`
          border: 1px solid transparent;
          background: var(--accent-soft);
          color: var(--ink);
          font-weight: 600;
          padding: 2px 8px;
          min-height: 28px;
        `
      : css`
          width: 100%;
          border: 1px solid var(--edge);
          background: var(--paper);
          padding: 6px 9px;
          min-height: 34px;
        `}
  &::after {
    content: "";
    flex: none;
    width: 7px;
    height: 7px;
    border: solid currentColor;
    border-width: 0 1.6px 1.6px 0;
    transform: rotate(45deg) translate(-2px, -2px);
  }
  &[data-hovered] {
    border-color: var(--ink-3);
  }
  &[data-focus-visible] {
    outline: 2.5px solid var(--flax);
    outline-offset: 1px;
  }
  [slot="description"] {
    display: none;
  }
`;

const Sheet = styled(Popover)`
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: 4px;
  min-width: max(var(--trigger-width), 140px);
  max-width: 420px;
  overflow: auto;
`;

const Rows = styled(ListBox)`
  padding: 4px;
  outline: none;
`;

const Row = styled(ListBoxItem)`
  padding: 5px 10px;
  border-radius: 3px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--accent-soft);
  }
  &[data-selected] {
    font-weight: 700;
  }
  [slot="description"] {
    display: block;
    font-weight: 400;
    font-size: 13px;
    color: var(--ink-2);
  }
`;

const Marked = styled.span`
  display: inline-flex;
  gap: 7px;
  align-items: center;
`;

const Heading = styled(Header)`
  padding: 8px 10px 2px;
  font-size: 12.5px;
  font-weight: 600;
  color: var(--ink-2);
`;

export interface PickerProps {
  label: string;
  /** `detail` is shown in the open list only. */
  options: readonly {
    code: string;
    label: string;
    detail?: string | undefined;
    /** What stands before its words, such as a shape. */
    before?: ReactNode;
    /** Those of a group stand together, below its heading. */
    group?: string;
  }[];
  value: string | null;
  onChange: (code: string) => void;
  inline?: boolean;
  placeholder?: string;
  isDisabled?: boolean;
}

type Option = PickerProps["options"][number];

const row = (option: Option) => (
  <Row key={option.code} id={option.code} textValue={option.label}>
    {option.detail ? (
      <>
        <Text slot="label">{option.label}</Text>
        <Text slot="description">{option.detail}</Text>
      </>
    ) : option.before ? (
      <Marked>
        {option.before}
        {option.label}
      </Marked>
    ) : (
      option.label
    )}
  </Row>
);

/** The options by group, each where its first stands. */
function grouped(options: readonly Option[]): [string, Option[]][] {
  const found = new Map<string, Option[]>();
  for (const option of options) {
    const { group = "" } = option;
    found.set(group, [...(found.get(group) ?? []), option]);
  }
  return [...found];
}

export function Picker({ label, options, value, onChange, inline = false, ...rest }: PickerProps) {
  return (
    <Whole
      $inline={inline}
      aria-label={inline ? label : undefined}
      value={value}
      onChange={(key) => {
        if (key !== null) onChange(String(key));
      }}
      placeholder={rest.placeholder ?? "choose"}
      isDisabled={rest.isDisabled ?? false}
    >
      {inline ? null : <FieldName>{label}</FieldName>}
      <Open $inline={inline}>
        <SelectValue />
      </Open>
      <Sheet>
        <Rows>
          {grouped(options).map(([group, members]) =>
            group ? (
              <ListBoxSection key={group}>
                <Heading>{group}</Heading>
                {members.map(row)}
              </ListBoxSection>
            ) : (
              members.map(row)
            ),
          )}
        </Rows>
      </Sheet>
    </Whole>
  );
}
