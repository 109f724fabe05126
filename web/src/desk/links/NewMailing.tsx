/** A letter to a list, or to pasted addresses, each with a pass: written, seen, sent off. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { contactLists } from "../contacts/data";
import { count, type Doc } from "../document";
import { usePlaceId } from "../shell/Place";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { endOf } from "../when";
import { askForMailing, FASTEST, previewMailing } from "./data";
import { LetterWords, type Text } from "./LetterWords";
import { Limits } from "./Limits";
import { Progress } from "./Progress";
import { SeenLetter } from "./SeenLetter";
import { given, slotsOf, type Values } from "./values";
import { ValuesForm } from "./ValuesForm";

const Whole = styled.div`
  display: grid;
  gap: 16px;
`;

const PASTED = "";

const FIRST_BODY = "Dear {contact.name|neighbour},\n\n\n\n{link}\n";

export function NewMailing({ doc }: { doc: Doc }) {
  const id = usePlaceId();
  const lists = useQuery(contactLists).data ?? [];
  const languages = doc.languages ?? ["en"];
  const [first = "en"] = languages;
  const [list, setList] = useState(PASTED);
  const [to, setTo] = useState("");
  const [name, setName] = useState("");
  const [subject, setSubject] = useState<Text>({});
  const [body, setBody] = useState<Text>({ [first]: FIRST_BODY });
  const [pace, setPace] = useState("60");
  const [values, setValues] = useState<Values>([]);
  const [until, setUntil] = useState("");
  const [kind, setKind] = useState("");
  const [uses, setUses] = useState("1");
  const [workId, setWorkId] = useState("");
  const slots = slotsOf(doc, true);
  const text = { subject, body, per_minute: Math.min(Math.max(Number(pace) || 60, 1), FASTEST) };
  const seeing = useDoing(() => previewMailing(id, { text, list_id: list || null }));
  const asking = useDoing(
    () =>
      askForMailing(id, {
        name,
        text,
        kind,
        list_id: list || null,
        to: list ? "" : to,
        values: given(values),
        expires: endOf(until),
        uses: uses.trim() ? Number(uses) : null,
      }),
    [],
    (work) => setWorkId(work.id),
  );
  const at = (place: string) => faultAt(asking.error, place);
  const failed = otherFault(asking.error, [
    "name",
    "expires",
    "uses",
    "to",
    ...slots.map((slot) => slot.name),
    ...languages.flatMap((language) => [`subject/${language}`, `body/${language}`]),
  ]);
  const chosen = lists.find((one) => one.id === list);
  if (workId) return <Progress workId={workId} onAgain={() => setWorkId("")} />;
  return (
    <Whole>
      <h2>A letter with a pass each</h2>
      <p>
        It goes to{" "}
        <Choose
          name="Whom it goes to"
          value={list}
          options={[
            { code: PASTED, label: "addresses that I paste" },
            ...lists.map((one) => ({ code: one.id, label: `the list ${one.name}` })),
          ]}
          onChange={setList}
        />
        {chosen
          ? `: ${count(chosen.reachable, "contact")} who did not opt out, as far as they have a mail address.`
          : ". They become contacts on a list that is called like the letter."}
      </p>
      {list ? null : (
        <Field label="Addresses" lines={4} value={to} error={at("to")} onChange={setTo} />
      )}
      <Field
        label="Name"
        value={name}
        maxLength={120}
        help="What it is called here; nobody else reads it."
        error={at("name")}
        onChange={setName}
      />
      <LetterWords
        languages={languages}
        subject={subject}
        body={body}
        onSubject={setSubject}
        onBody={setBody}
        errorAt={at}
      />
      <p>
        <Quiet>At the foot stands how to opt out, in the reader’s language.</Quiet>
      </p>
      <SeenLetter seeing={seeing} />
      <Field
        label="Kind of letters"
        value={kind}
        maxLength={60}
        help="For example “Water tests”. Who wants no more letters can choose: of this questionnaire, of this kind, or any."
        onChange={setKind}
      />
      <Field
        label="Letters a minute"
        inputMode="numeric"
        narrow
        value={pace}
        help="1 to 60,000. Slower is kinder to mail servers that do not know you yet."
        onChange={(typed) => setPace(typed.replace(/\D/g, ""))}
      />
      {slots.length ? (
        <>
          <h3>The same for all of them</h3>
          <ValuesForm
            doc={doc}
            slots={slots}
            stored
            values={values}
            onChange={setValues}
            errorAt={at}
          />
        </>
      ) : null}
      <Limits until={until} uses={uses} onUntil={setUntil} onUses={setUses} errorAt={at} />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" onPress={() => asking.mutate()} isDisabled={asking.isPending}>
          Send it off
        </Button>
      </Actions>
    </Whole>
  );
}
