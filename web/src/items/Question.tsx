/** One item of a page as a respondent answers it, by its kind. */
import { memo, type ComponentType } from "react";

import { Choice } from "../ui/Choice";
import { Scale } from "../ui/Scale";
import { words, type Item, type QuestionProps } from "./answer";
import { Files } from "./Files";
import { GridTable } from "./GridTable";
import { LocationField } from "./LocationField";
import { Locked } from "./Locked";
import { Parts } from "./Parts";
import { PickMany, PickOne } from "./Picks";
import { RankList } from "./RankList";
import { RosterList } from "./RosterList";
import { useShared } from "./shared";
import { Computed, Note, Picture, Video } from "./Shown";
import { Signature } from "./Signature";
import { Typed } from "./Typed";
import { useSay } from "./words";

function YesNo(props: QuestionProps) {
  const { at, answer, onAnswer } = props;
  const say = useSay();
  const options = [
    { code: "yes", label: say("yes") },
    { code: "no", label: say("no") },
  ];
  return (
    <Choice
      {...useShared(props)}
      options={options}
      value={answer === true ? "yes" : answer === false ? "no" : null}
      onChange={(code) => onAnswer(code === "yes", at)}
    />
  );
}

function Points(props: QuestionProps) {
  const { item, at, answer, onAnswer, onLeave } = props;
  return (
    <Scale
      {...useShared(props)}
      low={Number(item.at_least)}
      high={Number(item.at_most)}
      lowLabel={item.low_label ?? ""}
      highLabel={item.high_label ?? ""}
      value={words(answer) || null}
      onChange={(point) => {
        onAnswer(point, at);
        onLeave(item, at, point);
      }}
    />
  );
}

const Grid = (props: QuestionProps) => <GridTable {...props} Inner={Question} />;
const Roster = (props: QuestionProps) => <RosterList {...props} Inner={Question} />;

const BY_KIND: Record<Item["kind"], ComponentType<QuestionProps>> = {
  short_text: Typed,
  long_text: Typed,
  email: Typed,
  phone: Typed,
  web_address: Typed,
  number: Typed,
  date: Typed,
  time: Typed,
  date_time: Typed,
  yes_no: YesNo,
  pick_one: PickOne,
  pick_many: PickMany,
  rank: RankList,
  scale: Points,
  name: Parts,
  address: Parts,
  location: LocationField,
  file: Files,
  signature: Signature,
  grid: Grid,
  roster: Roster,
  note: Note,
  picture: Picture,
  video: Video,
  computed: Computed,
};

/** Drawn again only when something about it has changed: a page can have hundreds of them. */
export const Question = memo(function Question(props: QuestionProps) {
  const Kind = props.item.locked ? Locked : BY_KIND[props.item.kind];
  return <Kind {...props} />;
});
