/** An address to be copied, tried, or taken away as a QR code. */
import { useState, type ReactNode } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Actions, Sheet } from "../../ui/Sheet";
import { usePlaceId } from "../shell/Place";
import { withValues, type Values } from "./values";

const Box = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: 4px;
  padding: 8px 10px;
  output {
    flex: 1 1 260px;
    font: 13.5px var(--mono);
    overflow-wrap: anywhere;
  }
`;

const Code = styled.img`
  display: block;
  width: min(260px, 100%);
  height: auto;
  background: #fff;
`;

const REFUSED = "refused";

function useCopy(text: string) {
  const [copied, setCopied] = useState("");
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text);
      setCopied(text);
    } catch {
      setCopied(REFUSED);
    }
  };
  const words = copied === text ? "Copied" : copied === REFUSED ? "Select it to copy it" : "Copy";
  return { copy, words };
}

function QrSheet({ address, onClose }: { address: string; onClose: () => void }) {
  const id = usePlaceId();
  const src = (format: string) =>
    `/api/questionnaires/${id}/links/qr?${new URLSearchParams({ address, format })}`;
  return (
    <Sheet title="QR code" open onClose={onClose}>
      <Code src={src("svg")} alt={`QR code of ${address}`} />
      <p style={{ overflowWrap: "anywhere" }}>{address}</p>
      <p>The SVG is 2 cm wide or more when printed, as wide as it has to be to read well.</p>
      <Actions>
        <a href={src("svg")} download="qr.svg">
          SVG
        </a>
        <a href={src("png")} download="qr.png">
          PNG
        </a>
        <Button weight="main" onPress={onClose}>
          Close
        </Button>
      </Actions>
    </Sheet>
  );
}

interface AddressProps {
  address: string;
  /** What comes along where it is tried: the draft, with nothing stored. */
  tried: Values;
  children?: ReactNode;
}

export function AddressBox({ address, tried, children }: AddressProps) {
  const id = usePlaceId();
  const { copy, words } = useCopy(address);
  const [showing, setShowing] = useState(false);
  return (
    <Box>
      <output aria-label="The link">{address}</output>
      <Button weight="main" onPress={() => void copy()}>
        {words}
      </Button>
      <Button onPress={() => setShowing(true)}>QR code</Button>
      <a href={withValues(`/try/${id}`, tried)} target="_blank" rel="noreferrer">
        Try it
      </a>
      {children}
      {showing ? <QrSheet address={address} onClose={() => setShowing(false)} /> : null}
    </Box>
  );
}
