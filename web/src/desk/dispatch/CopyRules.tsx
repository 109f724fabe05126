/** Rules of another questionnaire taken over; what does not fit here is told at each. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Choices } from "../../ui/Choices";
import { Picker } from "../../ui/Picker";
import { Actions, Sheet } from "../../ui/Sheet";
import { Quiet } from "../../ui/text";
import { sentence } from "../condition/words";
import { dispatch as rulesOf, questionnaires } from "../data";
import { withCopies, type Dispatch, type Rule } from "./rules";

interface CopyRulesProps {
  id: string;
  rules: Dispatch;
  onCopied: (rules: Dispatch) => void;
}

const named = (rule: Rule, at: number) =>
  `${at + 1}. ${rule.when ? `When ${sentence(rule.when, [])}` : "For every entry"}`;

function Chosen({ from, rules, onCopied, onClose }: Chosen) {
  const found = useQuery(rulesOf(from)).data?.dispatch.rules ?? [];
  const [picked, setPicked] = useState<string[]>([]);
  const copied = found.filter(({ key }) => picked.includes(key));
  return (
    <>
      {found.length ? (
        <Choices
          label="Rules"
          options={found.map((rule, at) => ({ code: rule.key, label: named(rule, at) }))}
          value={picked}
          onChange={setPicked}
        />
      ) : (
        <p>It has no rules.</p>
      )}
      <Quiet>They are put behind those that are here. What does not fit is told at each.</Quiet>
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button
          weight="main"
          isDisabled={!copied.length}
          onPress={() => {
            onCopied(withCopies(rules, copied));
            onClose();
          }}
        >
          Copy
        </Button>
      </Actions>
    </>
  );
}

interface Chosen extends Omit<CopyRulesProps, "id"> {
  from: string;
  onClose: () => void;
}

export function CopyRules({ id, rules, onCopied }: CopyRulesProps) {
  const [open, setOpen] = useState(false);
  const [from, setFrom] = useState<string | null>(null);
  const others = (useQuery({ ...questionnaires, enabled: open }).data ?? []).filter(
    (one) => one.id !== id,
  );
  const close = () => setOpen(false);
  return (
    <>
      <Button weight="word" onPress={() => setOpen(true)}>
        Copy rules from another questionnaire
      </Button>
      <Sheet title="Copy rules" open={open} onClose={close}>
        <Picker
          label="From"
          options={others.map((one) => ({ code: one.id, label: one.title }))}
          value={from}
          onChange={setFrom}
        />
        {from ? (
          <Chosen key={from} from={from} rules={rules} onCopied={onCopied} onClose={close} />
        ) : null}
      </Sheet>
    </>
  );
}
