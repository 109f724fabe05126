/** The QR code of an address: taken away as a picture, or printed at a size that reads. */
import { useState } from "react";
import { createPortal } from "react-dom";
import styled, { createGlobalStyle } from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Actions, Sheet } from "../../ui/Sheet";
import { usePlaceId } from "../shell/Place";

const Code = styled.img`
  display: block;
  width: min(260px, 100%);
  height: auto;
  background: #fff;
`;

/** On paper stands the code and nothing else. */
const Alone = createGlobalStyle`
  [data-on-paper] {
    display: none;
  }
  @media print {
    body > *:not([data-on-paper]) {
      display: none !important;
    }
    [data-on-paper] {
      display: block;
    }
  }
`;

const Paper = styled.figure`
  margin: 0;
  color: #000;
  img {
    display: block;
    height: auto;
  }
  figcaption {
    font: 10pt var(--mono);
    overflow-wrap: anywhere;
    margin-top: 3mm;
  }
`;

/** Widths in centimetres, and from how far a code of that width is read: ten times its width
 * (common practice). */
const WIDTHS = ["2", "3", "5", "8", "12"];

const FROM: Record<string, string> = {
  "2": "20 cm, held in the hand",
  "3": "30 cm, on a letter",
  "5": "half a metre, on a notice",
  "8": "80 cm, on a door",
  "12": "more than a metre, on a poster",
};

/** A module is about 0.4 mm wide in the narrowest print: longer addresses have more of them. */
const narrowest = (address: string) => (address.length > 230 ? 3 : 2);

export function QrSheet({ address, onClose }: { address: string; onClose: () => void }) {
  const id = usePlaceId();
  const widths = WIDTHS.filter((width) => Number(width) >= narrowest(address));
  const [width, setWidth] = useState(widths[1] ?? "3");
  const src = (format: string) =>
    `/api/questionnaires/${id}/links/qr?${new URLSearchParams({ address, format })}`;
  return (
    <Sheet title="QR code" open onClose={onClose}>
      <Code src={src("svg")} alt={`QR code of ${address}`} />
      <p style={{ overflowWrap: "anywhere" }}>{address}</p>
      <p>
        Printed{" "}
        <Choose
          name="Width on paper"
          value={width}
          options={widths.map((code) => ({ code, label: `${code} cm` }))}
          onChange={setWidth}
        />{" "}
        wide it reads from {FROM[width]}. Print it at its true size, not fitted to the page.
      </p>
      <Actions>
        <a href={src("svg")} download="qr.svg">
          SVG
        </a>
        <a href={src("png")} download="qr.png">
          PNG
        </a>
        <Button onPress={() => window.print()}>Print</Button>
        <Button weight="main" onPress={onClose}>
          Close
        </Button>
      </Actions>
      <Alone />
      {createPortal(
        <Paper data-on-paper aria-hidden="true">
          <img src={src("svg")} alt="" style={{ width: `${width}cm` }} />
          <figcaption>{address}</figcaption>
        </Paper>,
        document.body,
      )}
    </Sheet>
  );
}
