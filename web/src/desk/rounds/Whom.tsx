/** Whom a round asks: a list or a part of it, drawn by chance, released in portions. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { InSentence } from "../../ui/InSentence";
import { Ledger } from "../../ui/Ledger";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { ConditionEditor } from "../condition/ConditionEditor";
import { contactLists } from "../contacts/data";
import { count } from "../document";
import { Sentence } from "../gate/Part";
import { usePlaceId } from "../shell/Place";
import { useDoing } from "../useDoing";
import { useContactSubjects } from "./contactSubjects";
import { drawPeople, ROUNDS, seeSample } from "./data";
import { DrawPart, Part } from "./DrawPart";
import type { Editing } from "./useRound";
import { people, stratumName } from "./words";

/** How many would be drawn, then drawing them. */
function Drawing({ editing }: { editing: Editing }) {
  const id = usePlaceId();
  const { round, kept, changed } = editing;
  const [seed, setSeed] = useState(round.draw?.seed ?? "");
  const seeing = useDoing(() => seeSample(id, round));
  const drawing = useDoing(() => drawPeople(id, kept.id, seed), [ROUNDS(id)]);
  const sample = seeing.data;
  const sum = (of: Record<string, number>) => Object.values(of).reduce((a, b) => a + b, 0);
  return (
    <Part>
      <Button onPress={() => seeing.mutate()}>See how many that is</Button>
      {seeing.error ? <Strip tone="wrong">{seeing.error.message}</Strip> : null}
      {sample ? (
        <>
          <p role="status">
            {people(sum(sample.drawn))} of {sum(sample.of)} who can be asked. Who opted out is not
            among them.
          </p>
          {Object.keys(sample.of).length > 1 ? (
            <Ledger name="The draw by stratum">
              <thead>
                <tr>
                  <th scope="col">Stratum</th>
                  <th scope="col">Drawn</th>
                  <th scope="col">Of</th>
                </tr>
              </thead>
              <tbody>
                {Object.entries(sample.of).map(([name, of]) => (
                  <tr key={name}>
                    <td>{stratumName(name)}</td>
                    <td>{sample.drawn[name]}</td>
                    <td>{of}</td>
                  </tr>
                ))}
              </tbody>
            </Ledger>
          ) : null}
        </>
      ) : null}
      <Sentence>
        Drawn with the seed
        <InSentence name="Seed" type="text" size={18} value={seed} onChange={setSeed} />
        <Quiet>Left empty, one is made. The same seed draws the same people again.</Quiet>
      </Sentence>
      {drawing.error ? <Strip tone="wrong">{drawing.error.message}</Strip> : null}
      <Button
        weight="main"
        isDisabled={changed || drawing.isPending}
        onPress={() => drawing.mutate()}
      >
        Draw them
      </Button>
      {changed ? (
        <Quiet>Apply the changes first.</Quiet>
      ) : (
        <Quiet>Who was drawn stays as it is from then on. Nothing goes out by that alone.</Quiet>
      )}
    </Part>
  );
}

export function Whom({ editing }: { editing: Editing }) {
  const lists = useQuery(contactLists).data ?? [];
  const subjects = useContactSubjects();
  const people = editing.round.people ?? {};
  const chosen = lists.find(({ id }) => id === people.list_id);
  const wrong = editing.faultAt("people/only");
  return (
    <>
      <Part>
        <h3>Whom to ask</h3>
        <Sentence>
          Those on
          <Choose
            name="List"
            value={people.list_id ?? ""}
            options={[
              { code: "", label: "choose a list" },
              ...lists.map(({ id, name }) => ({ code: id, label: name })),
            ]}
            onChange={(list) => editing.set({ people: { ...people, list_id: list || null } })}
          />
          {chosen ? <Quiet>{count(chosen.reachable, "contact")} who did not opt out</Quiet> : null}
          {lists.length ? null : <Link to="/contacts">Make a list first</Link>}
        </Sentence>
        <ConditionEditor
          condition={people.only ?? null}
          subjects={subjects}
          none="All of them."
          onChange={(only) => editing.set({ people: { ...people, only } })}
        />
        {wrong ? <Strip tone="wrong">{wrong}</Strip> : null}
      </Part>
      <DrawPart editing={editing} />
      <Drawing editing={editing} />
    </>
  );
}
