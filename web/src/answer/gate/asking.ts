/** What pages are made of on which one answers a letter. */
import styled from "styled-components";

export const Words = styled.p`
  margin: 10px 0 20px;
  overflow-wrap: anywhere;
`;

/** A form with one large button, or several. */
export const Press = styled.form`
  display: grid;
  gap: 10px;
  justify-items: start;
  button {
    font-size: 17px;
    padding: 10px 24px;
    min-height: 46px;
    text-align: start;
    overflow-wrap: anywhere;
  }
`;
