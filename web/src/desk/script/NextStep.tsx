/** What to do next once a questionnaire is published and nobody can answer it yet. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";

import { Strip } from "../../ui/Strip";
import { questionnaire } from "../data";

export function NextStep({ id }: { id: string }) {
  const found = useQuery(questionnaire(id)).data;
  if (!found || found.edition === null || found.gate.state === "open" || found.entries > 0) {
    return null;
  }
  return (
    <Strip tone="care">
      <span>
        Edition {found.edition} is published, and the gate is shut: nobody can answer yet. Next,{" "}
        <Link to="/q/$id/gate" params={{ id }}>
          open the gate
        </Link>{" "}
        and{" "}
        <Link to="/q/$id/links" params={{ id }}>
          pass on the link
        </Link>
        .
      </span>
    </Strip>
  );
}
