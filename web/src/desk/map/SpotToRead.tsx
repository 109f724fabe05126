/** What is chosen on the map, for those who read it and do not write. */
import type { ReactNode } from "react";

import { say, type Doc } from "../document";
import type { Spot } from "../draft/edits";
import { PageToRead } from "../reading/PageToRead";
import { askedBefore } from "../reading/ScriptToRead";
import { Section, Side } from "../shell/Section";

interface SpotToReadProps {
  doc: Doc;
  spot: Spot;
  /** What stands above it. */
  lead: ReactNode;
}

export function SpotToRead({ doc, spot, lead }: SpotToReadProps) {
  const page = spot.on === "page" ? doc.pages[spot.page] : undefined;
  const finish = spot.on === "finish" ? doc.finishes[spot.finish] : undefined;
  return (
    <Side aria-label="What is chosen" data-region="bench">
      {lead}
      {page && spot.on === "page" ? (
        <Section title="The page">
          <PageToRead
            doc={doc}
            page={page}
            number={spot.page}
            asked={askedBefore(doc)[spot.page] ?? 0}
            level="h3"
          />
        </Section>
      ) : null}
      {finish ? (
        <Section title="The finish">
          <b>{say(doc, finish.title)}</b>
          <p>{say(doc, finish.message)}</p>
        </Section>
      ) : null}
    </Side>
  );
}
