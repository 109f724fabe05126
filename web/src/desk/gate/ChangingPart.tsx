/** Whether people may change what they sent, and until when. */
import { Button } from "../../ui/Button";
import { InSentence } from "../../ui/InSentence";
import { Toggle } from "../../ui/Toggle";
import { Quiet } from "../../ui/text";
import { useStatuses } from "../handling";
import { usePlaceId } from "../shell/Place";
import { Part, Sentence } from "./Part";
import type { PartProps } from "./PeopleParts";

export function ChangingPart({ gate, writes, onChange }: PartProps) {
  const { every } = useStatuses(usePlaceId());
  const { changing } = gate;
  if (!changing) {
    return (
      <Part title="Changing one's own entry">
        <p>What was sent stays as it is.</p>
        {writes ? (
          <Button onPress={() => onChange({ changing: {} })}>Let people change it</Button>
        ) : null}
      </Part>
    );
  }
  const put = (part: Partial<typeof changing>) => onChange({ changing: { ...changing, ...part } });
  const chosen = changing.statuses ?? [];
  const offered = every.map(({ stored, name }) => ({ key: stored, name }));
  return (
    <Part title="Changing one's own entry">
      <Sentence>
        Whoever sent an entry may change it until
        <InSentence
          name="Changes until"
          type="datetime-local"
          value={changing.until ?? ""}
          isDisabled={!writes}
          onChange={(until) => put({ until: until || null })}
        />
        {changing.until
          ? null
          : chosen.length
            ? "(at any time)"
            : "(for as long as the gate is open)"}
      </Sentence>
      {offered.length ? (
        <>
          <p>{chosen.length ? "Only while its status is:" : "Whatever its status is, or only:"}</p>
          {offered.map(({ key, name }) => (
            <Toggle
              key={key}
              isSelected={chosen.includes(key)}
              isDisabled={!writes}
              onChange={(on) =>
                put({ statuses: on ? [...chosen, key] : chosen.filter((one) => one !== key) })
              }
            >
              {name}
            </Toggle>
          ))}
        </>
      ) : null}
      <Quiet>
        By their pass, by signing in, by a confirmed mail address, or by the link of a letter that
        they can ask for once they have sent it. The earlier version is kept; what dispatch did with
        it stays as it is.
      </Quiet>
      {writes ? (
        <Button weight="word" onPress={() => onChange({ changing: null })}>
          What was sent stays
        </Button>
      ) : null}
    </Part>
  );
}
