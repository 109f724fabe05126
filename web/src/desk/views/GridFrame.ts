/** How the grid looks: hairlines, the cell one is in, what others are in, what does not fit. */
import styled from "styled-components";

export const GridFrame = styled.div`
  position: relative;
  overflow: auto;
  min-height: 220px;
  height: 100%;
  background: var(--paper);
  border-block-start: 1px solid var(--line);
  font-size: 14px;
  outline: none;
  user-select: none;
  [role="row"] {
    position: absolute;
    inset-inline-start: 0;
    top: 0;
    display: flex;
    height: 36px;
    border-bottom: 1px solid var(--line);
    background: var(--paper);
  }
  [role="gridcell"],
  [role="rowheader"] {
    flex: none;
    position: relative;
    padding: 8px 10px 0;
    line-height: 19px;
  }
  .text {
    display: block;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  [role="row"]:has([data-active], [data-other]) {
    z-index: 2;
  }
  [data-frozen] {
    position: sticky;
    z-index: 1;
    background: inherit;
    border-inline-end: 2px solid var(--line-2);
  }
  .number {
    inset-inline-start: 0;
    font: 12.5px/19px var(--mono);
    color: var(--ink-2);
    cursor: pointer;
  }
  [data-number] {
    text-align: end;
  }
  [role="row"][data-open] {
    background: var(--accent-soft);
  }
  [data-open] .number {
    box-shadow: inset 4px 0 0 var(--accent);
  }
  [data-fresh] .number {
    box-shadow: inset 3px 0 0 var(--accent-mid);
  }
  [data-selected] {
    background: var(--flax-soft);
  }
  [data-waits] {
    color: var(--ink-3);
  }
  [data-refused] {
    background: var(--rust-soft);
    color: var(--rust);
  }
  [data-other],
  [data-active] {
    z-index: 2;
  }
  [data-other] {
    box-shadow: inset 0 0 0 1.5px var(--flax);
  }
  [data-frozen][data-active] {
    z-index: 3;
  }
  &:focus [data-active],
  &:focus-within [data-active] {
    box-shadow: inset 0 0 0 2.5px var(--flax);
  }
  [data-active] {
    box-shadow: inset 0 0 0 1.5px var(--edge);
  }
  .who {
    position: absolute;
    inset-inline-end: 3px;
    top: -8px;
    font: 600 11px/15px var(--body);
    background: var(--flax);
    color: var(--paper);
    border-radius: 2px;
    padding: 0 5px;
  }
  .why {
    position: absolute;
    inset-inline-start: 0;
    top: 100%;
    z-index: 4;
    background: var(--rust);
    color: var(--paper);
    font-size: 13px;
    line-height: 18px;
    padding: 3px 9px;
    border-radius: 0 0 3px 3px;
    width: max-content;
    max-width: 320px;
    white-space: normal;
    text-align: start;
  }
  .editor {
    position: absolute;
    inset: 0;
    z-index: 4;
  }
  .editor input,
  .editor textarea {
    width: 100%;
    min-width: 140px;
    height: 36px;
    border: 2.5px solid var(--flax);
    border-radius: 0;
    background: var(--paper);
    color: var(--ink);
    padding: 4px 8px;
    outline: none;
  }
  .editor textarea {
    height: auto;
    min-width: 260px;
  }
  .group {
    background: var(--mist);
    color: var(--ink-2);
    b {
      color: var(--ink);
    }
  }
  .grouphead {
    position: sticky;
    inset-inline-start: 0;
  }
`;

export const Head = styled.div`
  && {
    position: sticky;
    z-index: 5;
    height: 48px;
    background: var(--chalk);
    border-bottom: 1px solid var(--line);
  }
  [role="columnheader"]:not([data-frozen]) {
    position: relative;
  }
  [role="columnheader"] {
    flex: none;
    padding: 5px 10px 0;
    font-weight: 600;
    line-height: 19px;
    overflow: hidden;
  }
  [role="columnheader"][data-frozen] {
    z-index: 1;
  }
  small {
    display: block;
    font: 11.5px/15px var(--mono);
    color: var(--ink-3);
  }
`;
