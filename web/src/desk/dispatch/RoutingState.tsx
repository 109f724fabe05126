/** Whether every way through was looked at, and what came of it. */
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count } from "../document";
import { weighed } from "../proof/summary";
import type { Routing } from "./useRouting";

function told(routing: Routing): string {
  const { open } = routing;
  const { wrong, advice } = weighed(routing);
  const left = open.length ? ` Not decided: ${open.map(({ name }) => name).join(", ")}.` : "";
  const what =
    wrong || advice
      ? `${wrong ? `${wrong} wrong` : "Nothing wrong"}, ${advice} to think about.`
      : "Nothing wrong was found.";
  return `Every way through the questionnaire was looked at. ${what}${left}`;
}

interface RoutingStateProps {
  routing: Routing;
  rules: number;
  usable: boolean;
}

export function RoutingState({ routing, rules, usable }: RoutingStateProps) {
  const { current, problem } = routing;
  if (!rules || !usable) return null;
  if (problem) return <Strip tone="wrong">{problem}</Strip>;
  if (!current)
    return <Quiet role="status">Looking at every way through with {count(rules, "rule")}</Quiet>;
  return <Strip tone={weighed(routing).tone}>{told(routing)}</Strip>;
}
