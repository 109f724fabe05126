/** Passes made together: each with its row and what came by it; read again, revoked. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import type { Schema } from "../../client/client";
import { Tag } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { count } from "../document";
import { usePlaceId } from "../shell/Place";
import { Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { onDay, whenAmid } from "../when";
import { AddressBox } from "./AddressBox";
import { batchPage, linkOfPass, revokeAll, revokeOne, ways } from "./data";
import { VisitorsEye } from "./VisitorsEye";
import type { Batch } from "./WaysList";

type Page = Schema<"BatchPageOut">;
type Pass = Page["passes"][number];

const STATES: Record<Pass["state"], string> = {
  works: "Not used yet",
  used: "Used",
  used_up: "Used up",
  expired: "Its time is over",
  revoked: "Revoked",
};

const TONES: Record<Pass["state"], "open" | "shut" | "plain" | "care"> = {
  works: "plain",
  used: "open",
  used_up: "open",
  expired: "care",
  revoked: "shut",
};

interface RowsProps {
  page: Page;
  mayWrite: boolean;
  onShow: (one: Pass) => void;
}

function Rows({ page, mayWrite, onShow }: RowsProps) {
  const id = usePlaceId();
  const { batch, columns, passes } = page;
  const revoking = useDoing(
    (passId: string) => revokeOne(id, batch.id, passId),
    [ways(id).queryKey, ["passes", id, batch.id]],
  );
  return (
    <Ledger name={`Passes: ${batch.name}`}>
      <thead>
        <tr>
          <th scope="col" data-number>
            Row
          </th>
          {columns.map((column) => (
            <th key={column} scope="col">
              {column}
            </th>
          ))}
          <th scope="col">Where it is</th>
          <th scope="col">Entries</th>
          {mayWrite ? <th scope="col">Revoke</th> : null}
        </tr>
      </thead>
      <tbody>
        {passes.map((one) => (
          <tr key={one.id}>
            <td data-number>{one.number}</td>
            {columns.map((column, at) => (
              <td key={column} title={one.row[at]}>
                {one.row[at]}
              </td>
            ))}
            <td>
              <Tag $as={TONES[one.state]}>{STATES[one.state]}</Tag>
            </td>
            <td>
              {one.entries.map((number) => String(number).padStart(4, "0")).join(", ") || "–"}
            </td>
            {mayWrite ? (
              <td>
                {one.state === "revoked" ? null : (
                  <Button
                    weight="word"
                    aria-label={`Show the link of row ${one.number}`}
                    onPress={() => onShow(one)}
                  >
                    Show
                  </Button>
                )}
              </td>
            ) : null}
            {mayWrite ? (
              <td>
                {one.state === "revoked" ? null : (
                  <Button
                    weight="word"
                    aria-label={`Revoke the pass of row ${one.number}`}
                    onPress={() => revoking.mutate(one.id)}
                  >
                    Revoke
                  </Button>
                )}
              </td>
            ) : null}
          </tr>
        ))}
      </tbody>
    </Ledger>
  );
}

/** The link of one pass, and what whoever opens it can learn. */
function OnePass({ batch, one, onClose }: { batch: Batch; one: Pass; onClose: () => void }) {
  const id = usePlaceId();
  const query = useQuery({
    queryKey: ["pass link", id, one.id],
    queryFn: () => linkOfPass(id, batch.id, one.id),
    gcTime: 0,
  });
  return (
    <Sheet
      title={`The pass of row ${one.number}, ${one.row.find(Boolean) ?? batch.name}`}
      open
      onClose={onClose}
      width="wide"
    >
      <Loaded query={query}>
        {(link) => (
          <>
            <AddressBox address={link} tried={[]} />
            <VisitorsEye link={link} />
          </>
        )}
      </Loaded>
      <Actions>
        <Button onPress={onClose}>Close</Button>
      </Actions>
    </Sheet>
  );
}

function Revoking({ batch, onClose }: { batch: Batch; onClose: () => void }) {
  const id = usePlaceId();
  const revoking = useDoing(
    () => revokeAll(id, batch.id),
    [ways(id).queryKey, ["passes", id, batch.id]],
    onClose,
  );
  return (
    <Sheet title={`Revoke ${count(batch.live, "pass")}?`} open onClose={onClose}>
      <p>
        Nobody can come in by them any more, and it cannot be undone: new ones have to be made.
        Entries that came by them stay.
      </p>
      {revoking.error ? <Strip tone="wrong">{revoking.error.message}</Strip> : null}
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" onPress={() => revoking.mutate()}>
          Revoke them
        </Button>
      </Actions>
    </Sheet>
  );
}

interface PassesProps {
  batch: Batch;
  mayWrite: boolean;
}

export function PassesWay({ batch, mayWrite }: PassesProps) {
  const id = usePlaceId();
  const [after, setAfter] = useState<readonly number[]>([]);
  const [revoking, setRevoking] = useState(false);
  const [shown, setShown] = useState<Pass | null>(null);
  const query = useQuery(batchPage(id, batch.id, after.at(-1) ?? 0));
  const file = (format: string) =>
    `/api/questionnaires/${id}/links/passes/${batch.id}/file?format=${format}`;
  return (
    <>
      <h2>{batch.name}</h2>
      <p>
        {count(batch.passes, "pass")} made {whenAmid(batch.made)}
        {batch.expires ? `, good until ${onDay(batch.expires)}` : ""}
        {batch.uses
          ? `, each for ${count(batch.uses, "entry")}`
          : ", each for any number of entries"}
        . {count(batch.live, "pass")} can be used still; {count(batch.used, "entry")} came by them.
      </p>
      {mayWrite ? (
        <Actions style={{ justifyContent: "flex-start", alignItems: "center" }}>
          <a href={file("csv")}>The table with links, CSV</a>
          <a href={file("xlsx")}>XLSX</a>
          {batch.live ? <Button onPress={() => setRevoking(true)}>Revoke all</Button> : null}
        </Actions>
      ) : null}
      <Loaded query={query}>
        {(page) => (
          <>
            <Rows page={page} mayWrite={mayWrite} onShow={setShown} />
            <Actions style={{ justifyContent: "flex-start" }}>
              {after.length ? (
                <Button onPress={() => setAfter(after.slice(0, -1))}>Back</Button>
              ) : null}
              {page.more ? (
                <Button onPress={() => setAfter([...after, page.passes.at(-1)?.number ?? 0])}>
                  More
                </Button>
              ) : null}
            </Actions>
          </>
        )}
      </Loaded>
      <p>
        Secrets are not kept. Whoever may make passes can read the links again; that is noted in{" "}
        <Link to="/trail">the trail</Link>.
      </p>
      {shown ? <OnePass batch={batch} one={shown} onClose={() => setShown(null)} /> : null}
      {revoking ? <Revoking batch={batch} onClose={() => setRevoking(false)} /> : null}
    </>
  );
}
