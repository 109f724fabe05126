/** Somebody of the office answers for somebody, or corrects what was sent: said on every page, in the
 * language of the desk, with a way back there. */
import { createContext, useContext } from "react";
import styled from "styled-components";

import { Strip } from "../ui/Strip";

export interface Staff {
  says: string;
  /** Where the entries are, on the desk. */
  desk: string;
  /** Where the next one is entered; empty where one is corrected. */
  again?: string;
}

export const StaffContext = createContext<Staff | null>(null);

const Line = styled.div`
  text-align: start;
  margin-bottom: 12px;
`;

const Ways = styled.p`
  margin-top: 18px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  a {
    min-height: 24px;
  }
`;

export function ByStaff() {
  const staff = useContext(StaffContext);
  return staff ? (
    <Line lang="en" dir="ltr">
      <Strip>{staff.says}</Strip>
    </Line>
  ) : null;
}

/** Once it is stored. */
export function StaffWays() {
  const staff = useContext(StaffContext);
  return staff ? (
    <Ways lang="en" dir="ltr">
      <a href={staff.desk}>Back to the entries</a>
      {staff.again ? <a href={staff.again}>Enter another one</a> : null}
    </Ways>
  ) : null;
}
