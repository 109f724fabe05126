/** What the simulated mail room does with letters: it can refuse, bounce, delay and complain. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { mailRules, MAIL_RULES, putMailRules } from "../data";
import { useMe } from "../shell/me";
import { useDoing } from "../useDoing";

type Rule = Schema<"MailRuleBody">;

const DOES: Record<Rule["does"], string> = {
  refuse: "are not taken at all",
  no_address: "come back: nobody is at the address",
  full: "come back: the mailbox is full",
  delay: "are said to be delayed",
  complain: "are complained of",
};

const Whole = styled.details`
  padding-block: 10px 16px;
  max-width: 760px;
  overflow-wrap: anywhere;
  summary {
    font-weight: 600;
    cursor: pointer;
  }
  > div {
    display: grid;
    gap: 10px;
    padding-block-start: 10px;
  }
`;

export function MailRules() {
  const rules = useQuery(mailRules).data?.rules ?? [];
  const runs = useMe().rights.includes("run");
  const [to, setTo] = useState("");
  const [does, setDoes] = useState<Rule["does"]>("no_address");
  const putting = useDoing(
    (next: readonly Rule[]) => putMailRules([...next]),
    [MAIL_RULES],
    () => setTo(""),
  );
  return (
    <Whole>
      <summary>
        What it does with letters{rules.length ? `: ${rules.length} told` : ": it takes them all"}
      </summary>
      <div>
        <Lines>
          {rules.map((rule) => (
            <li key={rule.to}>
              <span>
                Letters to <b>{rule.to}</b> {DOES[rule.does]}
              </span>
              {runs ? (
                <Button
                  weight="word"
                  aria-label={`Take them again: ${rule.to}`}
                  onPress={() => putting.mutate(rules.filter((one) => one.to !== rule.to))}
                >
                  Take them again
                </Button>
              ) : null}
            </li>
          ))}
        </Lines>
        {runs ? (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              putting.mutate([...rules.filter((one) => one.to !== to.trim()), { to, does }]);
            }}
          >
            <Actions style={{ justifyContent: "flex-start", alignItems: "flex-end" }}>
              <Field
                label="Letters to"
                value={to}
                maxLength={254}
                placeholder="@example.net"
                onChange={setTo}
              />
              <Choose
                name="What happens to them"
                value={does}
                options={Object.entries(DOES).map(([code, label]) => ({ code, label }))}
                onChange={(code) => setDoes(code as Rule["does"])}
              />
              <Button type="submit" isDisabled={putting.isPending}>
                Do that
              </Button>
            </Actions>
          </form>
        ) : null}
        {putting.error ? <Strip tone="wrong">{putting.error.message}</Strip> : null}
      </div>
    </Whole>
  );
}
