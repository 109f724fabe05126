/** Picking one or many: as a list, a dropdown or buttons, with something else in own words. */
import { useId, type ReactNode } from "react";
import styled from "styled-components";

import { Choice } from "../ui/Choice";
import { Choices } from "../ui/Choices";
import { Field, fieldBox } from "../ui/Field";
import { Group, Wrong } from "../ui/Group";
import { elseOf, list, words, type Answer, type QuestionProps } from "./answer";
import { LongPick } from "./LongPick";
import { pick } from "./picks";
import { useOrder, useShared } from "./shared";
import { useSay } from "./words";

/** More options than these are searched. */
export const SEARCHED = 12;

const ELSE = "else";

const Own = styled.div`
  margin-top: 8px;
`;

const Menu = styled.select`
  ${fieldBox}
  min-height: 46px;
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: 1px;
  }
`;

function OwnWords({ value, onChange }: { value: string; onChange: (text: string) => void }) {
  const say = useSay();
  return (
    <Own>
      <Field label={say("own_words")} value={value} onChange={onChange} isRequired />
    </Own>
  );
}

/** The options with something else at their end, where that is offered. */
function useOffered(item: QuestionProps["item"]) {
  const order = useOrder(item);
  return item.else_label ? [...order, { code: ELSE, label: item.else_label }] : order;
}

export function PickOne(props: QuestionProps) {
  const { item, at, answer, onAnswer, onLeave } = props;
  const shared = useShared(props);
  const offered = useOffered(item);
  const own = elseOf(answer);
  const picked = own === null ? words(answer) || null : ELSE;
  const set = (code: string | null) => {
    const next: Answer = code === ELSE ? { else: "" } : code;
    onAnswer(next, at);
    if (code !== ELSE) onLeave(item, at, next);
  };
  const more =
    own === null ? null : (
      <OwnWords value={own} onChange={(text) => onAnswer({ else: text }, at)} />
    );
  if (offered.length > SEARCHED && item.look !== "buttons") {
    return (
      <LongPick
        {...shared}
        options={offered}
        picked={picked === null ? [] : [picked]}
        many={false}
        folded={item.look === "dropdown"}
        onPick={([code]) => set(code ?? null)}
        more={more}
      />
    );
  }
  if (item.look === "dropdown") {
    return <Dropdown {...props} offered={offered} picked={picked} onPick={set} more={more} />;
  }
  return (
    <Choice
      {...shared}
      options={offered}
      across={item.look === "buttons"}
      value={picked}
      onChange={set}
      more={more}
    />
  );
}

interface DropdownProps extends QuestionProps {
  offered: readonly { code: string; label: string; full?: boolean }[];
  picked: string | null;
  onPick: (code: string | null) => void;
  more: ReactNode;
}

function Dropdown({ offered, picked, onPick, more, ...props }: DropdownProps) {
  const say = useSay();
  const { id, label, help, error, isRequired } = useShared(props);
  const own = useId();
  return (
    <Group id={`${id}-whole`} label={<label htmlFor={id}>{label}</label>} help={help}>
      <Menu
        id={id}
        value={picked ?? ""}
        aria-required={isRequired || undefined}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? own : undefined}
        onChange={(event) => onPick(event.target.value || null)}
      >
        <option value="">{say("choose")}</option>
        {offered.map((option) => (
          <option
            key={option.code}
            value={option.code}
            disabled={Boolean(option.full) && picked !== option.code}
          >
            {option.label}
          </option>
        ))}
      </Menu>
      {more}
      {error ? <Wrong id={own}>{error}</Wrong> : null}
    </Group>
  );
}

export function PickMany(props: QuestionProps) {
  const { item, at, answer, onAnswer } = props;
  const shared = useShared(props);
  const offered = useOffered(item);
  const found = list(answer);
  const own = found.map(elseOf).find((text) => text !== null) ?? null;
  const picked = [
    ...found.filter((one): one is string => typeof one === "string"),
    ...(own === null ? [] : [ELSE]),
  ];
  const answered = (codes: readonly string[], text: string): Answer =>
    codes.map((code) => (code === ELSE ? { else: text } : code));
  const set = (next: readonly string[]) =>
    onAnswer(answered(pick(offered, picked, next), own ?? ""), at);
  const more =
    own === null ? null : (
      <OwnWords value={own} onChange={(text) => onAnswer(answered(picked, text), at)} />
    );
  if (offered.length > SEARCHED) {
    return <LongPick {...shared} options={offered} picked={picked} many onPick={set} more={more} />;
  }
  return <Choices {...shared} options={offered} value={picked} onChange={set} more={more} />;
}
