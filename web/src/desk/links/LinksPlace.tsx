/** Links: the ways into a questionnaire, what came by each, and making more of them. */
import { useQuery } from "@tanstack/react-query";
import { useSearch } from "@tanstack/react-router";
import styled from "styled-components";

import { edition, questionnaire } from "../data";
import type { Doc } from "../document";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { Empty, Loaded, Lost, Waiting } from "../shell/states";
import { mailings, ways as waysQuery } from "./data";
import { MailingWay, type Mailing } from "./MailingWay";
import { NamedWay, NewNamed } from "./NamedWay";
import { NewMailing } from "./NewMailing";
import { NewPasses } from "./NewPasses";
import { OtherPrograms } from "./OtherPrograms";
import { PassesWay } from "./PassesWay";
import { One } from "./One";
import { PublicWay } from "./PublicWay";
import { VisitorsEye } from "./VisitorsEye";
import { WaysList, type Ways } from "./WaysList";
import { WaysOn } from "./WaysOn";

const Whole = styled.div`
  display: grid;
  grid-template-columns: 330px minmax(0, 1fr) auto;
  min-height: calc(100vh - 102px);
  > :nth-child(3) {
    width: 340px;
  }
  @media (max-width: 1180px) {
    grid-template-columns: 330px minmax(0, 1fr);
    > :nth-child(3) {
      grid-column: 1 / -1;
      width: auto;
    }
  }
  @media (max-width: 900px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

interface ChosenProps {
  doc: Doc;
  ways: Ways;
  letters: readonly Mailing[];
  way: string;
  mayWrite: boolean;
}

function Chosen({ doc, ways, letters, way, mayWrite }: ChosenProps) {
  const link = ways.named.find(({ id }) => id === way);
  if (!way) return <PublicWay doc={doc} address={ways.address} />;
  if (link) {
    return (
      <>
        <One>
          <NamedWay doc={doc} link={link} mayWrite={mayWrite} />
        </One>
        {link.shut ? null : <VisitorsEye key={link.id} link={link.address} />}
      </>
    );
  }
  return (
    <One>
      <Other doc={doc} ways={ways} letters={letters} way={way} mayWrite={mayWrite} />
    </One>
  );
}

function Other({ doc, ways, letters, way, mayWrite }: ChosenProps) {
  const batch = ways.batches.find(({ id }) => id === way);
  if (batch) return <PassesWay key={batch.id} batch={batch} mayWrite={mayWrite} />;
  if (way === "new-link" && mayWrite) return <NewNamed doc={doc} />;
  if (way === "new-passes" && mayWrite) return <NewPasses doc={doc} />;
  if (way === "new-letter" && mayWrite) return <NewMailing doc={doc} />;
  const mailing = letters.find(({ id }) => id === way);
  if (mailing) return <MailingWay mailing={mailing} mayWrite={mayWrite} />;
  if (way === "on") return <WaysOn doc={doc} address={ways.address} mayWrite={mayWrite} />;
  if (way === "keys") return <OtherPrograms mayWrite={mayWrite} />;
  return <Lost stands="part" />;
}

export function LinksPlace() {
  const id = usePlaceId();
  const { way = "" } = useSearch({ from: "/q/$id/links" });
  const mayWrite = useRight("write");
  const line = useQuery(questionnaire(id)).data;
  const isPublished = line?.edition != null;
  const published = useQuery({ ...edition(id), enabled: isPublished }).data;
  const query = useQuery({ ...waysQuery(id), enabled: isPublished });
  const letters = useQuery({ ...mailings(id), enabled: isPublished }).data ?? [];
  if (line && !isPublished) {
    return (
      <Empty title="No link yet">
        <p>Publish the questionnaire in Script. Its address is then made up here.</p>
      </Empty>
    );
  }
  if (!line || !published) return <Waiting />;
  return (
    <Loaded query={query}>
      {(ways) => (
        <Whole>
          <WaysList
            ways={ways}
            letters={letters}
            now={way}
            gate={line.gate.state}
            mayWrite={mayWrite}
          />
          <Chosen
            doc={published.document}
            ways={ways}
            letters={letters}
            way={way}
            mayWrite={mayWrite}
          />
        </Whole>
      )}
    </Loaded>
  );
}
