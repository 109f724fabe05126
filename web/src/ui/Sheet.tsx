/** A dialog over the page. Escape and a press outside leave it, unless it asks for a choice. */
import { Dialog } from "react-aria-components/Dialog";
import { Heading } from "react-aria-components/Heading";
import { Modal, ModalOverlay } from "react-aria-components/Modal";
import type { ReactNode } from "react";
import styled from "styled-components";

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: rgb(18 22 14 / 55%);
  display: grid;
  place-items: start center;
  overflow: auto;
  padding: 8vh 12px 12px;
  z-index: 10;
`;

const WIDTHS = { plain: "540px", wide: "860px", whole: "1180px" };

const Frame = styled(Modal)<{ $width: keyof typeof WIDTHS }>`
  background: var(--paper);
  border: 1px solid var(--line-2);
  border-radius: 4px;
  width: min(${({ $width }) => WIDTHS[$width]}, 100%);
`;

const Inside = styled(Dialog)`
  padding: 20px 24px;
  outline: none;
  display: grid;
  gap: 14px;
`;

const Name = styled(Heading).attrs({ slot: "title" })`
  font-size: 20px;
`;

/** The row of buttons at the foot of a dialog or a form. */
export const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  justify-content: flex-end;
`;

interface SheetProps {
  title: string;
  open: boolean;
  onClose?: () => void;
  width?: keyof typeof WIDTHS;
  children: ReactNode;
}

export function Sheet({ title, open, onClose, width = "plain", children }: SheetProps) {
  return (
    <Veil
      isOpen={open}
      isDismissable={Boolean(onClose)}
      isKeyboardDismissDisabled={!onClose}
      onOpenChange={(now) => {
        if (!now) onClose?.();
      }}
    >
      <Frame $width={width}>
        <Inside>
          <Name>{title}</Name>
          {children}
        </Inside>
      </Frame>
    </Veil>
  );
}
