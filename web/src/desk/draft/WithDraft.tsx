/** The draft of the questionnaire that is open, for the places where it is written. */
import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";

import type { Schema } from "../../client/client";
import { draft } from "../data";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { Loaded } from "../shell/states";

export interface WritingProps {
  id: string;
  start: Schema<"DraftOut">;
  writes: boolean;
}

interface WithDraftProps {
  children: (props: WritingProps) => ReactElement;
}

export function WithDraft({ children }: WithDraftProps) {
  const id = usePlaceId();
  const writes = useRight("write");
  const query = useQuery(draft(id));
  return <Loaded query={query}>{(start) => children({ id, start, writes })}</Loaded>;
}
