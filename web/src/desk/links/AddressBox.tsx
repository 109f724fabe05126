/** An address to be copied, tried, or taken away as a QR code. */
import { useState, type ReactNode } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { usePlaceId } from "../shell/Place";
import { QrSheet } from "./QrSheet";
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

interface AddressProps {
  address: string;
  /** What comes along where it is tried: the draft, with nothing stored. Without it the address is
   * no way into the questionnaire. */
  tried?: Values;
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
      {tried ? (
        <>
          <Button onPress={() => setShowing(true)}>QR code</Button>
          <a href={withValues(`/try/${id}`, tried)} target="_blank" rel="noreferrer">
            Try it
          </a>
        </>
      ) : null}
      {children}
      {showing ? <QrSheet address={address} onClose={() => setShowing(false)} /> : null}
    </Box>
  );
}
