/** Links: the ways into a questionnaire, what came by each, and making more of them. */
import { useQuery } from "@tanstack/react-query";
import { useSearch } from "@tanstack/react-router";
import styled from "styled-components";

import { edition, questionnaire } from "../data";
import type { Doc } from "../document";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { Empty, Loaded, Lost, Waiting } from "../shell/states";
import { ways as waysQuery } from "./data";
import { NamedWay, NewNamed } from "./NamedWay";
import { NewPasses } from "./NewPasses";
import { OtherPrograms } from "./OtherPrograms";
import { PassesWay } from "./PassesWay";
import { PublicWay } from "./PublicWay";
import { WaysList, type Ways } from "./WaysList";
import { WaysOn } from "./WaysOn";

const Whole = styled.div`
  display: grid;
  grid-template-columns: 330px minmax(0, 1fr);
  min-height: calc(100vh - 102px);
  @media (max-width: 900px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const One = styled.div`
  padding: 22px clamp(12px, 2.4vw, 30px) 40px;
  max-width: 900px;
  display: grid;
  gap: 16px;
  align-content: start;
  min-width: 0;
  h2 {
    font-size: 22px;
    overflow-wrap: anywhere;
  }
  h3 {
    font-size: 16px;
  }
`;

interface ChosenProps {
  doc: Doc;
  ways: Ways;
  way: string;
  mayWrite: boolean;
}

function Chosen({ doc, ways, way, mayWrite }: ChosenProps) {
  const link = ways.named.find(({ id }) => id === way);
  const batch = ways.batches.find(({ id }) => id === way);
  if (!way) return <PublicWay doc={doc} address={ways.address} />;
  if (link) return <NamedWay doc={doc} link={link} mayWrite={mayWrite} />;
  if (batch) return <PassesWay key={batch.id} batch={batch} mayWrite={mayWrite} />;
  if (way === "new-link" && mayWrite) return <NewNamed doc={doc} />;
  if (way === "new-passes" && mayWrite) return <NewPasses doc={doc} />;
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
          <WaysList ways={ways} now={way} gate={line.gate.state} mayWrite={mayWrite} />
          <One>
            <Chosen doc={published.document} ways={ways} way={way} mayWrite={mayWrite} />
          </One>
        </Whole>
      )}
    </Loaded>
  );
}
