/** A sentence whose words can be changed. */
import styled from "styled-components";

export const Said = styled.div`
  font-size: 16.5px;
  line-height: 2.2;
  > * {
    line-height: 1.4;
    vertical-align: baseline;
  }
`;
