/** What a change of the rules means for past entries, told before it is applied. */
import { useInfiniteQuery } from "@tanstack/react-query";
import styled from "styled-components";

import { client, got, type Schema } from "../../../client/client";
import { Button } from "../../../ui/Button";
import { Quiet } from "../../../ui/text";
import { count, entryNumber } from "../../document";
import type { Around } from "../editors";
import type { Dispatch } from "../rules";
import { setLine } from "../setWords";

type Changed = Schema<"ChangedEntry">;
type Effect = Changed["new"][number];

export const List = styled.ul`
  li {
    border-top: 1px solid var(--line);
    padding: 5px 0;
    overflow-wrap: anywhere;
  }
  del,
  ins {
    display: block;
    text-decoration: none;
    &::before {
      font-weight: 600;
      margin-inline-end: 6px;
    }
  }
  del::before {
    content: "no more";
    color: var(--rust);
  }
  ins::before {
    content: "new";
    color: var(--accent);
  }
`;

export function named(effect: Effect, around: Around): string {
  const { known, hooks } = around;
  switch (effect.kind) {
    case "row":
      return `row in ${known.find(({ id }) => id === effect.register_id)?.name ?? "a register"}`;
    case "notice":
      return `letter to ${effect.to}, “${effect.subject}”`;
    case "call":
      return `call of ${hooks.find(({ id }) => id === effect.hook_id)?.name ?? "another system"}`;
    case "not_done":
      return effect.why_not ?? "";
    default:
      return setLine(effect, around);
  }
}

interface DifferencesProps {
  id: string;
  /** The changed rules, once they can be used as they stand. */
  usable: Dispatch | null;
  around: Around;
  onLook: (number: number) => void;
}

export function Differences({ id, usable, around, onLook }: DifferencesProps) {
  const query = useInfiniteQuery({
    queryKey: ["dispatch differences", id, usable],
    initialPageParam: null as number | null,
    queryFn: ({ pageParam: before }) =>
      got(
        client.POST("/api/questionnaires/{id}/dispatch/differences", {
          params: { path: { id } },
          body: { dispatch: usable ?? {}, before },
        }),
      ),
    getNextPageParam: (page) => page.next,
    enabled: usable !== null,
    retry: false,
    gcTime: 10_000,
  });
  const pages = query.data?.pages ?? [];
  const looked = pages.reduce((sum, page) => sum + page.looked_at, 0);
  const changed = pages.flatMap((page) => page.entries);
  if (!usable || !pages.length || !looked) return null;
  return (
    <section aria-label="What the change means">
      <h3>What the change means</h3>
      <p role="status">
        {changed.length
          ? `Of the last ${count(looked, "entry")}, something else would have been done with ${changed.length}.`
          : `With the last ${count(looked, "entry")} the same would have been done.`}{" "}
        <Quiet>What was done with them stays as it is.</Quiet>
      </p>
      <List>
        {changed.slice(0, 50).map((one) => (
          <li key={one.id}>
            <Button weight="word" onPress={() => onLook(one.number)}>
              Entry {entryNumber(one.number)}
            </Button>
            {one.gone.map((effect, at) => (
              <del key={at}>{named(effect, around)}</del>
            ))}
            {one.new.map((effect, at) => (
              <ins key={at}>{named(effect, around)}</ins>
            ))}
          </li>
        ))}
      </List>
      {changed.length > 50 ? <Quiet>and {changed.length - 50} more</Quiet> : null}
      {query.hasNextPage ? (
        <Button isDisabled={query.isFetching} onPress={() => void query.fetchNextPage()}>
          Look further back
        </Button>
      ) : null}
    </section>
  );
}
