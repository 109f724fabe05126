/** A field that people neither see nor reach; programs that fill in everything fill it in. */
import { useSyncExternalStore } from "react";
import styled from "styled-components";

import { useSay } from "../../items/words";
import { asksTrap, intoTrap } from "./asked";

const Away = styled.div`
  position: absolute;
  inset-inline-start: -10000px;
  width: 1px;
  height: 1px;
  overflow: hidden;
`;

/** Nothing changes it while the page is open. */
const never = () => () => undefined;

export function Trap() {
  const say = useSay();
  // What is drawn beforehand is the same for everybody, and asks for nothing.
  const asked = useSyncExternalStore(
    never,
    () => asksTrap,
    () => false,
  );
  if (!asked) return null;
  return (
    <Away aria-hidden="true">
      <label>
        {say("trap")}
        <input
          name="second_answer"
          tabIndex={-1}
          autoComplete="off"
          onChange={(event) => intoTrap(event.target.value)}
        />
      </label>
    </Away>
  );
}
