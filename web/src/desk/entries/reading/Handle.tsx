/** Where an entry stands, who takes care of it, and whether it is in the archive: changed from the
 * reading pane. */
import styled from "styled-components";

import type { Schema } from "../../../client/client";
import { Tag } from "../../../ui/Arm";
import { Button } from "../../../ui/Button";
import { Picker } from "../../../ui/Picker";
import { Strip } from "../../../ui/Strip";
import { Quiet } from "../../../ui/text";
import { useRight } from "../../shell/rights";
import { useDoing } from "../../useDoing";
import { whenAmid } from "../../when";
import {
  careCode,
  careOf,
  careOptions,
  following,
  handle,
  isLate,
  statusOf,
  useCarers,
  useStatuses,
} from "../../handling";
import { StatusGlyph, StatusMark } from "../../statuses/StatusMark";

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: end;
  margin-top: 12px;
  > div {
    min-width: 160px;
  }
`;

type Change = Omit<Schema<"HandleIn">, "ids">;

export function Handle({ id, entry }: { id: string; entry: Schema<"EntryOut"> }) {
  const statuses = useStatuses(id);
  const writes = useRight("write");
  const carers = useCarers(id, writes);
  const { status = "", archived, care } = entry;
  const now = statusOf(statuses.every, status);
  const late = isLate(statuses.every, entry) ? <Tag $as="shut">Late</Tag> : null;
  const changing = useDoing(
    (change: Change) => handle(id, { ids: [entry.id], ...change }),
    [
      ["entries", id],
      ["entry", id, entry.id],
      ["gate", id],
    ],
  );
  const wrong = changing.error?.message ?? changing.data?.find((one) => one.wrong)?.wrong;
  const inArchive = archived ? <Quiet>In the archive since {whenAmid(archived)}.</Quiet> : null;
  const next = following(statuses, status);
  const since = entry.since === entry.arrived ? null : <Quiet>since {whenAmid(entry.since)}</Quiet>;
  const picker =
    next.length > 1 ? (
      <div>
        <Picker
          label="Status"
          value={status}
          options={next.map((one) => ({
            code: one.stored,
            label: one.name,
            before: <StatusGlyph {...one} />,
          }))}
          isDisabled={changing.isPending}
          onChange={(code) => changing.mutate({ status: code })}
        />
      </div>
    ) : now ? (
      <p>
        <StatusMark status={now} />
      </p>
    ) : null;
  if (!writes) {
    return (
      <>
        <Line>
          {picker} {late} {since}
          {care ? <p>Taken care of by {care.name}</p> : null}
          {inArchive}
        </Line>
        {wrong ? <Strip tone="wrong">{wrong}</Strip> : null}
      </>
    );
  }
  return (
    <>
      <Line>
        {picker} {late}
        <div>
          <Picker
            label="Taken care of by"
            value={careCode(care)}
            options={careOptions(carers, care)}
            isDisabled={changing.isPending}
            onChange={(code) => changing.mutate({ care: careOf(code) })}
          />
        </div>
        <Button
          isDisabled={changing.isPending}
          onPress={() => changing.mutate({ archived: !archived })}
        >
          {archived ? "Take out of the archive" : "Archive"}
        </Button>
        {since}
        {inArchive}
      </Line>
      {wrong ? <Strip tone="wrong">{wrong}</Strip> : null}
    </>
  );
}
