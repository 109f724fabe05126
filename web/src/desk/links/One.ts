/** The way that is chosen, in the middle. */
import styled from "styled-components";

export const One = styled.div`
  padding: 22px clamp(12px, 2.4vw, 30px) 40px;
  max-width: 900px;
  display: grid;
  gap: 16px;
  align-content: start;
  min-width: 0;
  h2 {
    font-size: 22px;
    overflow-wrap: anywhere;
  }
  h3 {
    font-size: 16px;
  }
`;
