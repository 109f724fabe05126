/** What claims fill in: questions of the bank, wherever a questionnaire has them. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { fieldBox } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { bank } from "../bank/bank";
import { officeSettings } from "../data";

export type Mapping = Schema<"ClaimMapping">;

const Rows = styled.ul`
  display: grid;
  gap: 10px;
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 10px;
    align-items: flex-end;
    border-inline-start: 3px solid var(--accent-mid);
    padding-inline-start: 12px;
  }
  p {
    padding-bottom: 6px;
  }
`;

const USUAL = ["name", "given_name", "family_name", "email", "phone_number", "groups"];

interface MappingsProps {
  mappings: readonly Mapping[];
  /** Claims that the provider says it has. */
  claims: readonly string[];
  errorAt: (number: number) => string | undefined;
  onChange: (mappings: Mapping[]) => void;
}

export function Mappings({ mappings, claims, errorAt, onChange }: MappingsProps) {
  const questions = useQuery(bank).data ?? [];
  const first = useQuery(officeSettings).data?.office.languages?.[0] ?? "en";
  const put = (at: number, part: Partial<Mapping>) =>
    onChange(mappings.map((one, n) => (n === at ? { ...one, ...part } : one)));
  const partsOf = (id: string): readonly string[] => {
    const item = questions.find((one) => one.id === id)?.item;
    return item && (item.kind === "name" || item.kind === "address") ? (item.parts ?? []) : [];
  };
  const [spare] = questions;
  return (
    <section>
      <h3>What claims fill in</h3>
      <p>
        A claim fills in a question of the bank, in every questionnaire that has it linked. Carried
        values can take claims too.
      </p>
      <datalist id="claims">
        {[...new Set([...claims, ...USUAL])].map((claim) => (
          <option key={claim} value={claim} />
        ))}
      </datalist>
      <Rows>
        {mappings.map((one, at) => {
          const parts = partsOf(one.question);
          return (
            <li key={at}>
              <ClaimField value={one.claim} onChange={(claim) => put(at, { claim })} />
              <p>
                fills in{" "}
                <Choose
                  name={`What ${one.claim || "the claim"} fills in`}
                  value={one.question}
                  options={questions.map(({ id, item }) => ({
                    code: id,
                    label: item.text[first] || Object.values(item.text)[0] || item.key,
                  }))}
                  onChange={(question) => put(at, { question, part: partsOf(question)[0] ?? "" })}
                />
                {parts.length ? (
                  <>
                    , its{" "}
                    <Choose
                      name="Part"
                      value={one.part ?? ""}
                      options={parts.map((code) => ({ code, label: code }))}
                      onChange={(part) => put(at, { part })}
                    />
                  </>
                ) : null}{" "}
                <Choose
                  name="Whether visitors can change it"
                  value={one.locked === false ? "free" : "locked"}
                  options={[
                    { code: "locked", label: "and it stays so" },
                    { code: "free", label: "to be changed" },
                  ]}
                  onChange={(code) => put(at, { locked: code === "locked" })}
                />
              </p>
              <Button
                weight="word"
                aria-label={`Remove the claim ${one.claim}`}
                onPress={() => onChange(mappings.filter((_, n) => n !== at))}
              >
                Remove
              </Button>
              {errorAt(at) ? <b role="alert">{errorAt(at)}</b> : null}
            </li>
          );
        })}
      </Rows>
      {spare ? (
        <Button
          weight="word"
          onPress={() =>
            onChange([
              ...mappings,
              { claim: "", question: spare.id, part: partsOf(spare.id)[0] ?? "", locked: true },
            ])
          }
        >
          Add a claim
        </Button>
      ) : (
        <Strip>The question bank is empty. Keep a question there first, from its bench.</Strip>
      )}
    </section>
  );
}

const Claim = styled.label`
  font-weight: 600;
  input {
    ${fieldBox}
    display: block;
    width: 180px;
    min-height: 34px;
    font-weight: 400;
  }
`;

function ClaimField({ value, onChange }: { value: string; onChange: (claim: string) => void }) {
  return (
    <Claim>
      Claim
      <input
        list="claims"
        value={value}
        maxLength={60}
        onChange={(event) => onChange(event.target.value)}
      />
    </Claim>
  );
}
