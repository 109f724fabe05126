/** Deleting a register for good, once its name was typed. */
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { registers } from "../data";
import { count } from "../document";
import { useDoing } from "../useDoing";
import { removing, type RegisterRead } from "./data";

interface DeleteProps {
  read: RegisterRead;
  open: boolean;
  onClose: () => void;
}

export function DeleteRegister({ read: { register, rows }, open, onClose }: DeleteProps) {
  const [typed, setTyped] = useState("");
  const navigate = useNavigate();
  const deleting = useDoing(
    () => {
      removing.add(register.id);
      const path = { params: { path: { id: register.id } } };
      const asked = got(
        client.POST("/api/registers/{id}/removal", { ...path, body: { name: typed } }),
      );
      asked.catch(() => removing.delete(register.id));
      return asked;
    },
    [registers.queryKey],
    () => void navigate({ to: "/registers" }),
  );
  const ready = typed.trim() === register.name;
  return (
    <Sheet title={`Delete ${register.name}`} open={open} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) deleting.mutate();
        }}
      >
        <p>
          The register and its {count(rows, "row")} are gone for good. Export it first if you may
          need it. Entries stay, and rules that file to it say that it is gone.
        </p>
        <Field
          label={`Type ${register.name} to delete it`}
          value={typed}
          onChange={setTyped}
          autoFocus
        />
        {deleting.error ? <Strip tone="wrong">{deleting.error.message}</Strip> : null}
        <Actions style={{ marginTop: 14 }}>
          <Button onPress={onClose}>Cancel</Button>
          <Button weight="main" type="submit" isDisabled={!ready || deleting.isPending}>
            Delete
          </Button>
        </Actions>
      </form>
    </Sheet>
  );
}
