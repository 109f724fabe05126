/** Deleting a register for good, once its name was typed. */
import { useNavigate } from "@tanstack/react-router";

import { client, got } from "../../client/client";
import { registers } from "../data";
import { count } from "../document";
import { DeleteSheet } from "../shell/DeleteSheet";
import { useDoing } from "../useDoing";
import { removing, type RegisterRead } from "./data";

interface DeleteProps {
  read: RegisterRead;
  open: boolean;
  onClose: () => void;
}

export function DeleteRegister({ read: { register, rows }, open, onClose }: DeleteProps) {
  const navigate = useNavigate();
  const deleting = useDoing(
    (name: string) => {
      removing.add(register.id);
      const path = { params: { path: { id: register.id } } };
      const asked = got(client.POST("/api/registers/{id}/removal", { ...path, body: { name } }));
      asked.catch(() => removing.delete(register.id));
      return asked;
    },
    [registers.queryKey],
    () => void navigate({ to: "/registers" }),
  );
  return (
    <DeleteSheet
      title={`Delete ${register.name}`}
      open={open}
      word={register.name}
      what="it"
      error={deleting.error?.message}
      isPending={deleting.isPending}
      onClose={onClose}
      onDelete={deleting.mutate}
    >
      The register and its {count(rows, "row")} are gone for good. Export it first if you may need
      it. Entries stay, and rules that file to it say that it is gone.
    </DeleteSheet>
  );
}
