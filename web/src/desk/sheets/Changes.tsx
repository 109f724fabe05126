/** What changed, one sentence each. */
import { useQuery } from "@tanstack/react-query";

import { Sentences } from "../../ui/Sentences";
import { Quiet } from "../../ui/text";
import { changesOf } from "../data";
import { Loaded } from "../shell/states";

/** Those of edition `number`, or with null of the draft. */
export function Changes({ id, number }: { id: string; number: number | null }) {
  const query = useQuery(changesOf(id, number));
  return (
    <Loaded query={query}>
      {({ edition, changes }) => {
        if (edition === null) return <Quiet as="p">The first edition: all of it is new.</Quiet>;
        if (!changes.length) return <Quiet as="p">The same as edition {edition}.</Quiet>;
        return (
          <Sentences aria-label={`Changed since edition ${edition}`}>
            {changes.map(({ at, says }, number) => (
              <li key={`${at} ${number}`}>{says}</li>
            ))}
          </Sentences>
        );
      }}
    </Loaded>
  );
}
