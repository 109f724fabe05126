/** A table whose cells are the darker the larger their share is. */
import styled from "styled-components";

export const Shading = styled.div`
  overflow-x: auto;
  table {
    border-collapse: collapse;
    width: 100%;
  }
  th {
    font-weight: 400;
    text-align: end;
    padding: 4px 8px;
    vertical-align: bottom;
  }
  tbody th {
    text-align: start;
    padding-inline-start: 0;
  }
  td {
    text-align: end;
    padding: 4px 8px;
    white-space: nowrap;
  }
`;

/** Dark enough to be told apart, light enough for ink on it. */
export const shade = (share: number) =>
  `color-mix(in srgb, var(--accent-mid) ${Math.round(55 * share)}%, var(--mist))`;
