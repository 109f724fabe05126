/** Entries on paper, as a PDF in a tab of its own. */
import { MenuTrigger } from "react-aria-components/Menu";

import { Button } from "../../../ui/Button";
import { Deed, Deeds } from "../../../ui/Deeds";
import { MOST_PRINTED, printAddress } from "../data";

interface PrintProps {
  id: string;
  numbers: readonly number[];
  /** How many are meant, of which some may not have been read. */
  many?: number;
}

export function Print({ id, numbers, many = numbers.length }: PrintProps) {
  const tooMany = many > MOST_PRINTED || many > numbers.length;
  return (
    <MenuTrigger>
      <Button>Print</Button>
      <Deeds aria-label="Print">
        {tooMany ? (
          <Deed isDisabled>{MOST_PRINTED} entries can be printed at once. Choose fewer.</Deed>
        ) : (
          <>
            <Deed href={printAddress(id, numbers)} target="_blank">
              As staff read it
            </Deed>
            <Deed href={printAddress(id, numbers, true)} target="_blank">
              In the respondent’s language
            </Deed>
          </>
        )}
      </Deeds>
    </MenuTrigger>
  );
}
