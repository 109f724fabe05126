/** What one may do in the questionnaire that is open. */
import { useQuery } from "@tanstack/react-query";

import type { Schema } from "../../client/client";
import { questionnaire } from "../data";
import { usePlaceId } from "./Place";

export type Right = Schema<"SummaryOut">["rights"][number];

export function useRight(right: Right): boolean {
  const found = useQuery(questionnaire(usePlaceId())).data;
  return found?.rights.includes(right) ?? false;
}
