/** Making passes: one for each row of a table, or for each contact of a list. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { contactLists, type ContactList } from "../contacts/data";
import { count, type Doc } from "../document";
import { useMe } from "../shell/me";
import { usePlaceId } from "../shell/Place";
import { heldColumns, MatchColumns, type Matched, type Table } from "../tables/MatchColumns";
import { TableFile } from "../tables/TableFile";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { endOf } from "../when";
import { bringTable, makePasses } from "./data";
import { Limits } from "./Limits";
import { Progress } from "./Progress";
import { given, slotsOf, verdict, type Values } from "./values";
import { ValuesForm } from "./ValuesForm";

const Whole = styled.div`
  display: grid;
  gap: 16px;
`;

interface SettingsProps {
  doc: Doc;
  from: From;
  onStarted: (workId: string) => void;
}

function Settings({ doc, from, onStarted }: SettingsProps) {
  const id = usePlaceId();
  const table = "table" in from ? from.table : null;
  const list = "list" in from ? from.list : null;
  const slots = slotsOf(doc, true);
  const [matched, setMatched] = useState<Matched>(table?.proposed ?? {});
  const [name, setName] = useState(table?.name.replace(/\.[a-z]+$/i, "") ?? list?.name ?? "");
  const [values, setValues] = useState<Values>([]);
  const [until, setUntil] = useState("");
  const [uses, setUses] = useState("1");
  const brought = Object.values(matched).filter(Boolean);
  const making = useDoing(
    () =>
      makePasses(id, {
        name,
        table_id: table?.id ?? null,
        list_id: list?.id ?? null,
        columns: heldColumns(matched),
        values: given(values),
        expires: endOf(until),
        uses: uses.trim() ? Number(uses) : null,
      }),
    [],
    (work) => onStarted(work.id),
  );
  const at = (place: string) => faultAt(making.error, place);
  const failed = otherFault(making.error, [
    "name",
    "expires",
    "uses",
    ...slots.map((slot) => slot.name),
    ...(table?.columns ?? []).map((_, number) => `columns/${number}`),
  ]);
  const others = slots.filter((slot) => !brought.includes(slot.name));
  const many = table?.rows ?? list?.reachable ?? 0;
  return (
    <Whole>
      {table ? (
        <>
          <p>
            {table.name}: {count(table.rows, "row")} below the names of the columns. One pass is
            made for each.
          </p>
          <MatchColumns
            table={table}
            choices={slots.map(({ name, label }) => ({ code: name, label }))}
            verb="brings"
            matched={matched}
            onMatch={setMatched}
            errorAt={at}
          />
          <Lines>
            {slots
              .filter((slot) => brought.includes(slot.name))
              .map((slot) => (
                <li key={slot.name}>
                  <b>{slot.label}</b> <Quiet>{verdict(doc, slot, true)}</Quiet>
                </li>
              ))}
          </Lines>
        </>
      ) : (
        <p>
          One pass for each contact on {list?.name}, {many} of {list?.contacts}: who opted out gets
          none. What is known of the contact comes along with it.
        </p>
      )}
      <h3>The same for all of them</h3>
      <ValuesForm
        doc={doc}
        slots={others}
        stored
        values={values}
        onChange={setValues}
        errorAt={at}
      />
      <Field label="Name" value={name} maxLength={120} error={at("name")} onChange={setName} />
      <Limits until={until} uses={uses} onUntil={setUntil} onUses={setUses} errorAt={at} />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" onPress={() => making.mutate()} isDisabled={making.isPending}>
          Make {count(many, "pass")}
        </Button>
      </Actions>
    </Whole>
  );
}

/** Of a table, or of a list. */
type From = { table: Table } | { list: ContactList };

function FromList({ onList }: { onList: (list: ContactList) => void }) {
  const lists = useQuery(contactLists).data ?? [];
  if (!lists.length) return null;
  return (
    <p>
      Or for the contacts on{" "}
      <Choose
        name="A contact list"
        value=""
        options={[
          { code: "", label: "a list" },
          ...lists.map(({ id, name }) => ({ code: id, label: name })),
        ]}
        onChange={(id) => {
          const list = lists.find((one) => one.id === id);
          if (list) onList(list);
        }}
      />
    </p>
  );
}

export function NewPasses({ doc }: { doc: Doc }) {
  const id = usePlaceId();
  const reaches = useMe().rights.includes("reach");
  const [from, setFrom] = useState<From | null>(null);
  const [workId, setWorkId] = useState("");
  const bringing = useDoing(
    (file: File) => bringTable(id, file),
    [],
    (table) => setFrom({ table }),
  );
  const again = () => {
    setFrom(null);
    setWorkId("");
  };
  return (
    <Whole>
      <h2>Passes</h2>
      {workId ? (
        <Progress workId={workId} onAgain={again} />
      ) : from ? (
        <Settings doc={doc} from={from} onStarted={setWorkId} />
      ) : (
        <>
          <p>
            A table with one person, household or well in each row. It comes back with a link of its
            own behind every row.
          </p>
          <TableFile
            isReading={bringing.isPending}
            error={bringing.error}
            onFile={(file) => bringing.mutate(file)}
          />
          {reaches ? <FromList onList={(list) => setFrom({ list })} /> : null}
        </>
      )}
    </Whole>
  );
}
