/** The three columns of the script: its track, itself, and what stands beside it. */
import styled from "styled-components";

export const Whole = styled.div<{ $track: number; $beside: number }>`
  display: grid;
  grid-template-columns:
    ${({ $track }) => $track}px minmax(0, 1fr)
    ${({ $beside }) => $beside}px;
  min-height: calc(100vh - 102px);
  @media (max-width: 1080px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

/** How wide the track and the bench are, in pixels. */
export const TRACK = 210;
export const BENCH = 348;

export const Middle = styled.div`
  --gap: clamp(12px, 2vw, 28px);
  padding: 18px var(--gap) 0;
  display: flex;
  flex-direction: column;
  min-width: 0;
`;
