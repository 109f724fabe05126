/** A place: written or pasted in degrees, or taken from the device where the visitor agrees. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { map, words, type Answer, type QuestionProps } from "./answer";
import { useShared } from "./shared";
import { useSay } from "./words";

/** Milliseconds that the device may take, and how old a place may be that it knows already. */
const PATIENCE = { enableHighAccuracy: true, timeout: 20_000, maximumAge: 60_000 };

/** Five places are about a metre. */
const PLACES = 5;

const Whole = styled.div`
  display: grid;
  gap: 6px;
  justify-items: start;
  > :first-child {
    justify-self: stretch;
  }
  > button {
    min-height: 46px;
    font-size: inherit;
  }
`;

/** The place as one text; an answer that was made up, or filled in, may have come in parts. */
function written(answer: Answer): string {
  const { latitude, longitude } = map(answer);
  return latitude == null ? words(answer) : `${words(latitude)}, ${words(longitude ?? null)}`;
}

type Finding = "idle" | "looking" | "failed";

export function LocationField(props: QuestionProps) {
  const { item, at, answer, onAnswer, onLeave } = props;
  const say = useSay();
  const [finding, setFinding] = useState<Finding>("idle");
  const shared = useShared(props);
  const text = written(answer);
  const [read, setRead] = useState({ place: item.value ?? "", text });
  if (read.place !== (item.value ?? "")) setRead({ place: item.value ?? "", text });
  const isRead = read.place !== "" && read.text === text && !shared.error;
  const find = () => {
    setFinding("looking");
    const found = ({ coords }: GeolocationPosition) => {
      setFinding("idle");
      const place = [coords.latitude, coords.longitude].map((one) => one.toFixed(PLACES));
      onAnswer(place.join(", "), at);
      onLeave(item, at, place.join(", "));
    };
    navigator.geolocation.getCurrentPosition(found, () => setFinding("failed"), PATIENCE);
  };
  return (
    <Whole>
      <Field
        {...shared}
        help={shared.help ?? say("location_hint")}
        dir="ltr"
        value={text}
        onChange={(now) => onAnswer(now, at)}
        onBlur={(event) => {
          const next = event.relatedTarget as HTMLButtonElement | null;
          if (next?.type !== "submit") onLeave(item, at, answer);
        }}
      />
      <Button onPress={find} isDisabled={finding === "looking"}>
        {say("locate")}
      </Button>
      <span role="status">
        {finding === "looking"
          ? say("locating")
          : finding === "failed"
            ? say("not_located")
            : isRead
              ? say("location_read", { place: read.place })
              : ""}
      </span>
    </Whole>
  );
}
