/** One register: the rows that were filed to it. */
import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";

import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import { Mono, Quiet } from "../../ui/text";
import { registerPage } from "../data";
import { entryNumber } from "../document";
import { RoomHead } from "../shell/Office";
import { Broken, Empty, Waiting } from "../shell/states";
import { ThingName } from "../shell/ThingName";
import { useOlder } from "../useOlder";
import { cellWords } from "./columns";
import { RowPane } from "./RowPane";
import { when } from "../when";

export function RegisterRoom() {
  const id = useParams({ from: "/office/registers/$registerId" }).registerId;
  const { row } = useSearch({ from: "/office/registers/$registerId" });
  const navigate = useNavigate();
  const query = useOlder(
    ["register", id],
    (before) => registerPage(id, before),
    (page) => page.rows.at(-1)?.id,
  );
  if (query.isError)
    return <Broken error={query.error} onRetry={() => void query.refetch()} stands="room" />;
  const register = query.data?.pages[0]?.register;
  if (!register) return <Waiting />;
  const rows = query.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <>
      <RoomHead>
        <h1>{register.name}</h1>
        <Quiet>
          Register, one of <Link to="/registers">all registers</Link>
        </Quiet>
        {query.data?.pages[0]?.rights.includes("share") ? (
          <Link to="/registers/$registerId/people" params={{ registerId: id }}>
            People
          </Link>
        ) : null}
      </RoomHead>
      {row ? (
        <RowPane
          key={row}
          id={id}
          row={row}
          onClose={() =>
            void navigate({ to: "/registers/$registerId", params: { registerId: id }, search: {} })
          }
        />
      ) : null}
      {rows.length ? (
        <Ledger name={`Register ${register.name}`}>
          <thead>
            <tr>
              <th scope="col">Row</th>
              {register.columns.map((column) => (
                <th
                  key={column.key}
                  scope="col"
                  data-number={column.type === "number" || undefined}
                >
                  {column.label}
                </th>
              ))}
              <th scope="col">From entry</th>
              <th scope="col">Filed</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.id}>
                <td>
                  <Link
                    to="/registers/$registerId"
                    params={{ registerId: id }}
                    search={{ row: row.id }}
                  >
                    <Mono>{row.id}</Mono>
                  </Link>
                </td>
                {register.columns.map((column) => (
                  <td key={column.key} data-number={column.type === "number" || undefined}>
                    {cellWords(row.values[column.key], column) || "—"}
                  </td>
                ))}
                <td>
                  <Mono>{entryNumber(row.entry_number)}</Mono>
                  {row.about ? (
                    <>
                      {" "}
                      <ThingName thing={row.about} />
                    </>
                  ) : null}
                </td>
                <td>{when(row.filed)}</td>
              </tr>
            ))}
          </tbody>
        </Ledger>
      ) : (
        <Empty title="No rows yet">
          <p>A dispatch rule that files to this register puts its rows here.</p>
        </Empty>
      )}
      {query.hasNextPage ? (
        <Button onPress={() => void query.fetchNextPage()}>Show older</Button>
      ) : null}
    </>
  );
}
