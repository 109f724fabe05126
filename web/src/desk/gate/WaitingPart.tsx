/** Who waits for a place, in their order, and who was offered one. */
import { useQuery } from "@tanstack/react-query";

import { Button } from "../../ui/Button";
import { Sentences } from "../../ui/Sentences";
import { Strip } from "../../ui/Strip";
import { useDoing } from "../useDoing";
import { standing, takeOff, whoWaits } from "./data";
import { Part } from "./Part";
import { inZone } from "./when";

export function WaitingPart({ id, zone }: { id: string; zone: string }) {
  const found = useQuery(whoWaits(id)).data ?? [];
  const taking = useDoing(
    (waiting: string) => takeOff(id, waiting),
    [whoWaits(id).queryKey, standing(id).queryKey],
  );
  return (
    <Part title="Waiting list">
      {found.length ? (
        <Sentences aria-label="Waiting list">
          {found.map(({ id: waiting, email, joined, until }) => (
            <li key={waiting}>
              {email},{" "}
              {until
                ? `offered a place until ${inZone(until, zone)}`
                : `since ${inZone(joined, zone)}`}
              {until ? null : (
                <Button
                  weight="word"
                  aria-label={`Take ${email} off the list`}
                  isDisabled={taking.isPending}
                  onPress={() => taking.mutate(waiting)}
                >
                  Take off
                </Button>
              )}
            </li>
          ))}
        </Sentences>
      ) : (
        <p>Nobody waits.</p>
      )}
      {taking.error ? <Strip tone="wrong">{taking.error.message}</Strip> : null}
    </Part>
  );
}
