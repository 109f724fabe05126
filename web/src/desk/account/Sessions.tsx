/** Where one is signed in. */
import { useQuery } from "@tanstack/react-query";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { ownSessions } from "../data";
import { Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { whenAmid } from "../when";

export function Sessions() {
  const query = useQuery(ownSessions);
  const changes = [ownSessions.queryKey];
  const ending = useDoing(
    (id: string) => got(client.DELETE("/api/account/sessions/{id}", { params: { path: { id } } })),
    changes,
  );
  const endingAll = useDoing(() => got(client.DELETE("/api/account/sessions")), changes);
  const error = ending.error ?? endingAll.error;
  return (
    <section aria-label="Where you are signed in">
      <h2>Where you are signed in</h2>
      {error ? <Strip tone="wrong">{error.message}</Strip> : null}
      <Loaded query={query}>
        {(sessions) => (
          <>
            <Lines aria-label="Sessions">
              {sessions.map((session) => (
                <li key={session.id}>
                  <b>{session.client}</b>
                  <Quiet>
                    {session.place}, since {whenAmid(session.started)}, last seen{" "}
                    {whenAmid(session.seen)}
                  </Quiet>
                  {session.own ? (
                    <span>this one</span>
                  ) : (
                    <Button
                      weight="word"
                      aria-label={`End the session of ${session.client}, begun ${whenAmid(session.started)}`}
                      onPress={() => ending.mutate(session.id)}
                    >
                      End
                    </Button>
                  )}
                </li>
              ))}
            </Lines>
            {sessions.length > 1 ? (
              <Button onPress={() => endingAll.mutate()}>End all others</Button>
            ) : null}
          </>
        )}
      </Loaded>
    </section>
  );
}
