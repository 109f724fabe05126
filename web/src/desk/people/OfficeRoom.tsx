/** The office: what an installation serves, how its pages and letters look, how people sign in. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { ApiError, client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { me, officeSettings } from "../data";
import { RoomHead } from "../shell/Office";
import { Loaded } from "../shell/states";
import { otherFault, useDoing } from "../useDoing";
import { Letters, Naming, Pages, SigningIn } from "./OfficeParts";

type Office = Schema<"Office">;
type Saved = Schema<"OfficeBody">;

const Whole = styled.form`
  display: grid;
  gap: 26px;
  max-width: 720px;
  > section {
    display: grid;
    gap: 14px;
  }
  h2 {
    font-size: 18px;
    border-bottom: 1px solid var(--line-2);
    padding-bottom: 4px;
  }
`;

const SHOWN = ["name", "time_zone", "idle_minutes", "sender", "reply_to", "imprint", "privacy"].map(
  (name) => `office/${name}`,
);

function newer(error: Error | null): Saved | null {
  if (!(error instanceof ApiError) || error.code !== "stale") return null;
  const { revision, value } = error.params["current"] as { revision: number; value: Office };
  return { revision, office: value };
}

function Settings({ start }: { start: Saved }) {
  const queries = useQueryClient();
  const [kept, setKept] = useState(start);
  const [office, setOffice] = useState(start.office);
  const saving = useDoing(
    (revision: number) => {
      const languages = (office.languages ?? []).filter(Boolean);
      return got(
        client.PUT("/api/office", { body: { revision, office: { ...office, languages } } }),
      );
    },
    [me.queryKey, ["sign-in"]],
    (saved) => {
      setKept(saved);
      setOffice(saved.office);
      queries.setQueryData(officeSettings.queryKey, saved);
    },
  );
  const set = (part: Partial<Office>) => setOffice((now) => ({ ...now, ...part }));
  const changed = JSON.stringify(office) !== JSON.stringify(kept.office);
  const theirs = newer(saving.error);
  const other = otherFault(saving.error, SHOWN);
  const shared = { office, set, error: saving.error };
  return (
    <Whole
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate(kept.revision);
      }}
    >
      {other ? (
        <Strip tone="wrong">
          {other}
          {theirs ? (
            <Button
              onPress={() => {
                setKept(theirs);
                setOffice(theirs.office);
                saving.reset();
              }}
            >
              Show theirs
            </Button>
          ) : null}
        </Strip>
      ) : null}
      <Naming {...shared} />
      <Letters {...shared} />
      <Pages {...shared} />
      <SigningIn {...shared} />
      <p>
        <Button weight="main" type="submit" isDisabled={!changed || saving.isPending}>
          {changed ? "Save" : "Saved"}
        </Button>
      </p>
    </Whole>
  );
}

export function OfficeRoom() {
  const query = useQuery(officeSettings);
  return (
    <>
      <RoomHead>
        <h1>Settings of the office</h1>
        <Quiet>For public pages, letters and signing in</Quiet>
      </RoomHead>
      <Loaded query={query}>{(start) => <Settings start={start} />}</Loaded>
    </>
  );
}
