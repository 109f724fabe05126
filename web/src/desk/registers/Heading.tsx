/** Above the grid: the register, how many rows there are, who else is there, and what can be done. */
import { Link } from "@tanstack/react-router";
import { useSyncExternalStore, type ReactNode } from "react";
import styled from "styled-components";

import { Quiet } from "../../ui/text";
import { count } from "../document";
import { Empty } from "../shell/states";
import type { RegisterRead } from "./data";
import type { Grid } from "./grid/Grid";
import type { Others } from "./useRegister";

const Top = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  padding: 14px 20px 10px;
  h1 {
    font-size: 24px;
  }
  > span:last-child {
    margin-inline-start: auto;
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
`;

export function NoRows({ grid, mayWrite }: { grid: Grid; mayWrite: boolean }) {
  useSyncExternalStore(grid.watch, grid.current);
  return (
    <Empty title="No rows yet">
      <p>
        A dispatch rule that files to this register puts its rows here.
        {mayWrite ? " Or add them by hand." : ""}
      </p>
    </Empty>
  );
}

interface HeadingProps {
  read: RegisterRead;
  grid: Grid;
  others: Others;
  children: ReactNode;
}

export function Heading({ read, grid, others, children }: HeadingProps) {
  useSyncExternalStore(grid.watch, grid.current);
  const names = [...new Set(others.map(({ name }) => name))].join(", ");
  const fresh = grid.fresh.size;
  return (
    <Top>
      <Link to="/registers">Registers</Link>
      <span aria-hidden>/</span>
      <h1>{read.register.name}</h1>
      <Quiet>
        <span role="status">
          {count(grid.count, "row")}
          {fresh ? `, ${fresh} just arrived` : ""}
        </span>
        {names ? ` · ${names} here too` : ""}
      </Quiet>
      <span>{children}</span>
    </Top>
  );
}
