/** The public address, with what it can bring standing in it for everybody to read. */
import { useState } from "react";

import type { Doc } from "../document";
import { AddressBox } from "./AddressBox";
import { One } from "./One";
import { slotsOf, withValues, type Values } from "./values";
import { ValuesForm } from "./ValuesForm";
import { VisitorsEye } from "./VisitorsEye";

export function PublicWay({ doc, address }: { doc: Doc; address: string }) {
  const [values, setValues] = useState<Values>([]);
  const slots = slotsOf(doc, false);
  const link = withValues(address, values);
  return (
    <>
      <One>
        <h2>Public address</h2>
        <AddressBox address={link} tried={values} />
        <p>
          What is chosen here stands in the address. Whoever holds it can read it and change it; a
          named link or a pass keeps it with us.
        </p>
        {slots.length ? (
          <ValuesForm doc={doc} slots={slots} stored={false} values={values} onChange={setValues} />
        ) : (
          <p>Nothing of this questionnaire comes with the address itself.</p>
        )}
      </One>
      <VisitorsEye key={link} link={link} />
    </>
  );
}
