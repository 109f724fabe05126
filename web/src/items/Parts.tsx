/** Names and addresses: a field for each part, filled in by the browser where it knows them. */
import { useId } from "react";
import styled from "styled-components";

import { Field, fieldBox } from "../ui/Field";
import { Group, Wrong } from "../ui/Group";
import { errorAt, fieldOf, map, words, type QuestionProps } from "./answer";
import { useShared } from "./shared";
import { useSay } from "./words";

/** The autofill names of the HTML standard (4.10.18.7). */
const AUTOFILL: Record<string, string> = {
  title: "honorific-prefix",
  given: "given-name",
  family: "family-name",
  suffix: "honorific-suffix",
  street: "address-line1",
  more: "address-line2",
  city: "address-level2",
  region: "address-level1",
  postcode: "postal-code",
  country: "country",
};

const SHORT = new Set(["title", "suffix", "postcode"]);

const Fields = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  margin-top: 8px;
`;

const Part = styled.div<{ $short: boolean }>`
  flex: ${({ $short }) => ($short ? "0 1 130px" : "1 1 210px")};
  min-width: 0;
`;

const Menu = styled.select`
  ${fieldBox}
  min-height: 46px;
`;

function Country({ props, value }: { props: QuestionProps; value: string }) {
  const { item, at, answer, onAnswer } = props;
  const say = useSay();
  const own = useId();
  const error = errorAt(props.faults, `${at}/country`);
  return (
    <>
      <label htmlFor={fieldOf(`${at}/country`)}>
        <b>{say("address_country")}</b>
      </label>
      <Menu
        id={fieldOf(`${at}/country`)}
        autoComplete="country"
        value={value}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? own : undefined}
        onChange={(event) =>
          onAnswer({ ...map(answer), country: event.target.value }, `${at}/country`)
        }
      >
        <option value="">{say("choose")}</option>
        {(item.options ?? []).map(({ code, label }) => (
          <option key={code} value={code}>
            {label}
          </option>
        ))}
      </Menu>
      {error ? <Wrong id={own}>{error}</Wrong> : null}
    </>
  );
}

export function Parts(props: QuestionProps) {
  const { item, at, answer, faults, onAnswer } = props;
  const say = useSay();
  const { id, label, help, error } = useShared(props);
  const parts = map(answer);
  const needed = (part: string) =>
    (item.required || Object.values(parts).some(Boolean)) && (item.needed ?? []).includes(part);
  return (
    <Group id={id} label={label} help={help} error={error}>
      <Fields>
        {(item.parts ?? []).map((part) => {
          const place = `${at}/${part}`;
          const value = words(parts[part] ?? null);
          return (
            <Part key={part} $short={SHORT.has(part)}>
              {part === "country" ? (
                <Country props={props} value={value} />
              ) : (
                <Field
                  id={fieldOf(place)}
                  label={say(`${item.kind}_${part}`)}
                  autoComplete={AUTOFILL[part] ?? "on"}
                  isRequired={needed(part)}
                  error={errorAt(faults, place)}
                  value={value}
                  onChange={(text) => onAnswer({ ...parts, [part]: text }, place)}
                />
              )}
            </Part>
          );
        })}
      </Fields>
    </Group>
  );
}
