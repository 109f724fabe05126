/** How the cards of the stops look, and the lines of their rules. */
import styled, { css } from "styled-components";

import type { Level } from "../proof/spots";

export const isFar = (zoom: number): boolean => zoom < 0.6;

/** How large a title is drawn from afar, in pixels of the map. */
export const titleAt = (zoom: number): string => `${Math.min(34, 15 / zoom)}px`;

const lit = css`
  border-color: var(--flax);
  box-shadow: 0 0 0 2px var(--flax);
`;

/** From afar only the title is read, in letters that grow as the map gets smaller; a bar tells that
 * something was found out. Rules are too small to press by then. */
const far = css`
  border-width: 3px;
  &[data-marked] {
    border-inline-end: 16px solid var(--ochre);
  }
  &[data-marked="wrong"] {
    border-color: var(--rust);
  }
  b {
    font-size: var(--title);
    line-height: 1.2;
  }
  small,
  span {
    visibility: hidden;
  }
  button {
    height: 100%;
  }
  button + button,
  span + button {
    display: none;
  }
`;

export const Card = styled.div<{ $end: boolean; $lit: boolean; $dim: boolean; $found: boolean }>`
  position: absolute;
  background: ${({ $end }) => ($end ? "var(--mist)" : "var(--paper)")};
  border: 1.5px solid ${({ $dim }) => ($dim ? "var(--line)" : "var(--accent-mid)")};
  border-radius: ${({ $end }) => ($end ? "2px" : "12px")};
  overflow: hidden;
  ${({ $lit }) => ($lit ? lit : "")}
  ${({ $found }) => ($found ? "outline: 3px solid var(--ochre); outline-offset: 2px;" : "")}
  &:has([aria-current="true"]) {
    border-color: var(--accent);
    background: var(--accent-soft);
  }
  &[data-marked="wrong"] {
    border-color: var(--rust);
  }
  [data-far] && {
    ${far}
  }
`;

export const Face = styled.button<{ $end: boolean }>`
  display: block;
  width: 100%;
  min-height: 44px;
  border: 0;
  background: none;
  color: var(--ink);
  text-align: start;
  padding: 5px 12px;
  padding-inline-start: ${({ $end }) => ($end ? "34px" : "38px")};
  cursor: pointer;
  position: relative;
  &::before {
    content: "";
    position: absolute;
    inset-inline-start: 14px;
    top: 14px;
    width: 12px;
    height: 12px;
    border: 3px solid var(--accent);
    border-radius: ${({ $end }) => ($end ? "1px" : "50%")};
    background: ${({ $end }) => ($end ? "var(--accent)" : "var(--paper)")};
  }
  b,
  small {
    display: block;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    font-size: 12.5px;
    color: var(--ink-2);
  }
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: -3px;
  }
`;

export const RuleLine = styled.button<{ $lit: boolean }>`
  display: block;
  width: 100%;
  height: 26px;
  border: 0;
  border-top: 1px solid var(--line);
  background: ${({ $lit }) => ($lit ? "var(--flax-soft)" : "none")};
  color: var(--ink-2);
  font-size: 12.5px;
  text-align: start;
  padding: 0 12px;
  cursor: pointer;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  b {
    float: inline-end;
    color: var(--ink);
    padding-inline-start: 8px;
  }
  &[data-marked="wrong"] {
    color: var(--rust);
    font-weight: 600;
  }
  &[data-marked="advice"] {
    color: var(--ochre);
    font-weight: 600;
  }
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: -3px;
  }
`;

export const Mark = styled.span<{ $level: Level }>`
  position: absolute;
  inset-inline-end: 10px;
  top: 8px;
  min-width: 20px;
  border-radius: 10px;
  padding: 0 6px;
  text-align: center;
  font-size: 12.5px;
  font-weight: 700;
  background: ${({ $level }) => ($level === "wrong" ? "var(--rust-soft)" : "var(--ochre-soft)")};
  color: ${({ $level }) => ($level === "wrong" ? "var(--rust)" : "var(--ochre)")};
`;
