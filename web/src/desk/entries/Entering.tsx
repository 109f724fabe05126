/** An entry taken on the phone, from paper or in person: entered through the questionnaire itself. */
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { useDoing } from "../useDoing";

type How = Schema<"EnterIn">["entered"];

const WAYS: readonly { code: How; label: string }[] = [
  { code: "phone", label: "On the phone" },
  { code: "paper", label: "On paper" },
  { code: "in_person", label: "In person" },
];

export function Entering({ id }: { id: string }) {
  const [open, setOpen] = useState(false);
  const beginning = useDoing(
    (entered: How) =>
      got(
        client.POST("/api/questionnaires/{id}/entered", {
          params: { path: { id } },
          body: { entered },
        }),
      ),
    [],
    ({ path }) => window.location.assign(path),
  );
  return (
    <>
      <Button onPress={() => setOpen(true)}>Enter one…</Button>
      <Sheet title="Enter for somebody" open={open} onClose={() => setOpen(false)}>
        <p>
          The questionnaire opens with all its checks. Opening times, limits and audience of the
          gate do not count for you; places do. The entry says that you entered it, and how it came
          to you.
        </p>
        <b>How does it come to you?</b>
        {beginning.error ? <Strip tone="wrong">{beginning.error.message}</Strip> : null}
        <Actions>
          {WAYS.map(({ code, label }) => (
            <Button
              key={code}
              isDisabled={beginning.isPending}
              onPress={() => beginning.mutate(code)}
            >
              {label}
            </Button>
          ))}
        </Actions>
      </Sheet>
    </>
  );
}
