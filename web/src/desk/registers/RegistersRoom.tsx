/** All registers. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import { Quiet } from "../../ui/text";
import { registers } from "../data";
import { useMe } from "../shell/me";
import { RoomHead } from "../shell/Office";
import { Empty, Loaded } from "../shell/states";
import { FromTable } from "./FromTable";
import { NewRegister } from "./NewRegister";

export function RegistersRoom() {
  const begins = useMe().rights.includes("begin");
  const query = useQuery(registers);
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const [bringing, setBringing] = useState(false);
  const open = (registerId: string) =>
    void navigate({ to: "/registers/$registerId", params: { registerId } });
  return (
    <>
      <RoomHead>
        <h1>Registers</h1>
        <Quiet>Where filed rows land and are worked on</Quiet>
        {begins ? (
          <span>
            <Button onPress={() => setBringing(true)}>New from a file</Button>{" "}
            <Button weight="main" onPress={() => setMaking(true)}>
              New register
            </Button>
          </span>
        ) : null}
      </RoomHead>
      <Loaded query={query}>
        {(found) =>
          found.length ? (
            <Ledger name="Registers">
              <thead>
                <tr>
                  <th scope="col">Name</th>
                  <th scope="col">Columns</th>
                  <th scope="col" data-number>
                    Rows
                  </th>
                </tr>
              </thead>
              <tbody>
                {found.map((register) => (
                  <tr key={register.id}>
                    <td>
                      <Link to="/registers/$registerId" params={{ registerId: register.id }}>
                        {register.name}
                      </Link>
                    </td>
                    <td>{register.columns.map((column) => column.label).join(", ")}</td>
                    <td data-number>{register.rows}</td>
                  </tr>
                ))}
              </tbody>
            </Ledger>
          ) : (
            <Empty title="No registers yet">
              <p>Make one, then let a dispatch rule file to it.</p>
            </Empty>
          )
        }
      </Loaded>
      <NewRegister
        open={making}
        columns={[]}
        onClose={() => setMaking(false)}
        onMade={(register) => open(register.id)}
      />
      <FromTable open={bringing} onClose={() => setBringing(false)} onMade={open} />
    </>
  );
}
