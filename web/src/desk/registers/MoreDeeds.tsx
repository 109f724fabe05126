/** What else can be done with a register: taken out as a table, made a questionnaire of, deleted. */
import { useNavigate } from "@tanstack/react-router";
import { MenuTrigger } from "react-aria-components/Menu";
import { useState } from "react";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Deed, Deeds } from "../../ui/Deeds";
import { questionnaires } from "../data";
import { useMe } from "../shell/me";
import { useDoing } from "../useDoing";
import { exportAddress, type RegisterRead } from "./data";
import type { TableView } from "../views/view";
import { DeleteRegister } from "./DeleteRegister";

interface MoreProps {
  read: RegisterRead;
  view: TableView;
  onTold: (told: string) => void;
}

export function MoreDeeds({ read, view, onTold }: MoreProps) {
  const { id } = read.register;
  const begins = useMe().rights.includes("begin");
  const navigate = useNavigate();
  const [deleting, setDeleting] = useState(false);
  const making = useDoing(
    () =>
      got(client.POST("/api/registers/{id}/questionnaire", { params: { path: { id } } })).catch(
        (error: unknown) => {
          onTold(error instanceof Error ? error.message : String(error));
          throw error;
        },
      ),
    [questionnaires.queryKey],
    (made) => void navigate({ to: "/q/$id/script", params: { id: made.id } }),
  );
  return (
    <>
      <MenuTrigger>
        <Button>More</Button>
        <Deeds
          aria-label="More"
          onAction={(what) => {
            if (what === "questionnaire") making.mutate();
            if (what === "delete") setDeleting(true);
          }}
        >
          <Deed href={exportAddress(id, view, "csv")} download="">
            Export as CSV
          </Deed>
          <Deed href={exportAddress(id, view, "xlsx")} download="">
            Export as XLSX
          </Deed>
          {begins ? <Deed id="questionnaire">Make a questionnaire of its columns</Deed> : null}
          {read.rights.includes("share") ? <Deed id="delete">Delete this register…</Deed> : null}
        </Deeds>
      </MenuTrigger>
      <DeleteRegister read={read} open={deleting} onClose={() => setDeleting(false)} />
    </>
  );
}
