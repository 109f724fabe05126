/** A menu of things to do, which opens from a button. */
import { Menu, MenuItem, type MenuItemProps, type MenuProps } from "react-aria-components/Menu";
import { Popover } from "react-aria-components/Popover";
import styled from "styled-components";

const Box = styled(Popover)`
  background: var(--paper);
  border: 1px solid var(--line-2);
  border-radius: 4px;
  min-width: 210px;
  max-height: 70vh;
  overflow: auto;
`;

const Item = styled(MenuItem)`
  display: block;
  padding: 6px 14px;
  color: var(--ink);
  font-weight: 400;
  text-decoration: none;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--accent-soft);
  }
  &[data-disabled] {
    color: var(--ink-2);
    font-size: 13px;
    max-width: 320px;
    cursor: default;
  }
`;

/** What opens; it stands beside its button inside of a MenuTrigger. */
export function Deeds<T extends object>(props: MenuProps<T>) {
  return (
    <Box>
      <Menu {...props} />
    </Box>
  );
}

export function Deed(props: MenuItemProps) {
  return <Item {...props} />;
}
