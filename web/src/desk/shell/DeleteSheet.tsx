/** Asks for something to be typed before it is deleted for good. */
import { useState, type ReactNode } from "react";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";

interface DeleteSheetProps {
  title: string;
  open: boolean;
  /** What has to be typed, and what that deletes: it, them. */
  word: string;
  what: "it" | "them";
  error?: string | undefined;
  isPending?: boolean;
  /** What is gone then, and what stays. */
  children: ReactNode;
  onClose: () => void;
  onDelete: (typed: string) => void;
}

export function DeleteSheet(props: DeleteSheetProps) {
  const { title, open, onClose } = props;
  return (
    <Sheet title={title} open={open} onClose={onClose}>
      <Asking {...props} />
    </Sheet>
  );
}

function Asking({ word, what, error, isPending, children, onClose, onDelete }: DeleteSheetProps) {
  const [typed, setTyped] = useState("");
  const ready = typed.trim() === word;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) onDelete(typed);
      }}
    >
      <p>{children}</p>
      <Field
        label={`Type ${word} to delete ${what}`}
        value={typed}
        onChange={setTyped}
        inputMode={/^\d+$/.test(word) ? "numeric" : "text"}
        autoFocus
      />
      {error ? <Strip tone="wrong">{error}</Strip> : null}
      <Actions style={{ marginTop: 14 }}>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" type="submit" isDisabled={!ready || isPending === true}>
          Delete
        </Button>
      </Actions>
    </form>
  );
}
