/** What an entry is about, by what it came, and what it is linked with. */
import { Link } from "@tanstack/react-router";
import styled from "styled-components";

import type { Schema } from "../../../client/client";
import { entryNumber } from "../../document";
import { useMe } from "../../shell/me";
import { ThingName } from "../../shell/ThingName";

const Lines = styled.ul`
  margin-top: 6px;
  li {
    padding: 2px 0;
    color: var(--ink-2);
    font-size: 14px;
  }
`;

type Linked = Schema<"LinkedOut">;

function ToEntry({ one }: { one: Linked }) {
  return (
    <Link
      to="/q/$id/entries"
      params={{ id: one.questionnaire_id }}
      search={{ entry: one.entry_id }}
    >
      {one.title} {entryNumber(one.number)}
    </Link>
  );
}

interface CameByProps {
  id: string;
  came: Schema<"CameByOut">;
  about: Schema<"ThingOut"> | null | undefined;
  /** How it came to somebody of the office who entered it; empty where nobody did. */
  entered: string;
}

const TOOK: Readonly<Record<string, string>> = {
  phone: "from a call",
  paper: "from paper",
  in_person: "in person",
};

export function CameBy({ id, came, about, entered }: CameByProps) {
  const reaches = useMe().rights.includes("reach");
  const { contact } = came;
  const others = came.others ?? [];
  if (!about && !came.name && !contact && !came.before && !came.after.length && !entered)
    return null;
  return (
    <Lines>
      {about ? (
        <li>
          About <ThingName thing={about} />,{" "}
          <Link to="/q/$id/entries" params={{ id }} search={{ about: about.id }}>
            all entries about it
          </Link>
        </li>
      ) : null}
      {contact ? (
        <li>
          From{" "}
          {reaches ? (
            <Link to="/contacts" search={{ contact: contact.id }}>
              {contact.name}
            </Link>
          ) : (
            contact.name
          )}
        </li>
      ) : null}
      {entered ? (
        <li>
          Entered by {came.staff || "somebody of the office"} {TOOK[entered] ?? ""}
        </li>
      ) : null}
      {others.length ? (
        <li>
          Also from them:{" "}
          {others.map((one, n) => (
            <span key={one.entry_id}>
              {n ? ", " : ""}
              <ToEntry one={one} />
            </span>
          ))}
        </li>
      ) : null}
      {came.name ? (
        <li>
          Came by {came.name}
          {came.number === null ? "" : `, row ${came.number}`}
        </li>
      ) : null}
      {came.before ? (
        <li>
          Goes on from <ToEntry one={came.before} />
        </li>
      ) : null}
      {came.after.map((one) => (
        <li key={one.entry_id}>
          Goes on in <ToEntry one={one} />
        </li>
      ))}
    </Lines>
  );
}
