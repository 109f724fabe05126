/** What letters on paper need: the window of the envelope, where they go, and how one looks. */
import { useEffect } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { Toggle } from "../../ui/Toggle";
import { Quiet } from "../../ui/text";
import { Sentence } from "../gate/Part";
import { usePlaceId } from "../shell/Place";
import { useDoing } from "../useDoing";
import { useContactFields } from "./contactSubjects";
import { seeSheet, type Round, type Step } from "./data";
import type { Editing } from "./useRound";
import { WINDOWS } from "./words";

const Sheet = styled.img`
  width: 100%;
  border: 1px solid var(--line-2);
  background: #fff;
`;

type Post = NonNullable<Round["post"]>;

interface PaperProps {
  editing: Editing;
  step: Step;
}

/** A letter as it is printed, as a picture of its first page. */
function SeenSheet({ editing, step }: PaperProps) {
  const id = usePlaceId();
  const seeing = useDoing(() => seeSheet(id, { round: editing.round, step: step.key }));
  const url = seeing.data ?? "";
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  return (
    <>
      <div>
        <Button isDisabled={seeing.isPending} onPress={() => seeing.mutate()}>
          See it as it is printed
        </Button>
      </div>
      {seeing.error ? <Strip tone="wrong">{seeing.error.message}</Strip> : null}
      {url ? <Sheet src={url} alt="The first page of the letter, for an example" /> : null}
    </>
  );
}

export function PaperFields({ editing, step }: PaperProps) {
  const fields = useContactFields();
  const post = editing.round.post ?? {};
  const set = (change: Partial<Post>) => editing.set({ post: { ...post, ...change } });
  const faultAt = (at: string) => editing.faultAt(`steps/${step.key}/post/${at}`);
  const wrong = faultAt("postcode");
  return (
    <>
      <Sentence>
        For an envelope with
        <Choose
          name="Window of the envelope"
          value={step.window ?? "din_b"}
          options={Object.entries(WINDOWS).map(([code, label]) => ({ code, label }))}
          onChange={(window) =>
            editing.setStep(step.key, { window: window as NonNullable<Step["window"]> })
          }
        />
      </Sentence>
      <Toggle
        isSelected={step.duplex ?? false}
        onChange={(duplex) => editing.setStep(step.key, { duplex })}
      >
        Printed on both sides: each letter begins on a front
      </Toggle>
      <h3>Where letters on paper of this round go</h3>
      <Field
        label="Address of a contact"
        lines={4}
        value={post.lines ?? ""}
        maxLength={500}
        error={faultAt("lines")}
        help={`A line for each line in the window: ${fields.map(({ key }) => `{contact.${key}}`).join(", ")}. Lines without words are left out.`}
        onChange={(lines) => set({ lines })}
      />
      <Sentence>
        Sorted by
        <Choose
          name="Field of the postcode"
          value={post.postcode ?? ""}
          options={[
            { code: "", label: "the field that has the postcode" },
            ...fields.map(({ key, label }) => ({ code: key, label: `the field ${label}` })),
          ]}
          onChange={(postcode) => set({ postcode })}
        />
      </Sentence>
      <Quiet as="p">Who has no postcode gets no letter on paper.</Quiet>
      {wrong ? <Strip tone="wrong">{wrong}</Strip> : null}
      <Field
        label="Sender, in one line"
        value={post.sender ?? ""}
        maxLength={90}
        help="In small type above the address."
        onChange={(sender) => set({ sender })}
      />
      <Quiet as="p">
        At the end stands a code for phones, and eight letters that can be typed at a short address.
      </Quiet>
      <SeenSheet editing={editing} step={step} />
    </>
  );
}
