/** The proof of a draft, made anew after each change that is saved; the last one stays until. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schema } from "../../client/client";
import { proof } from "../data";
import type { Draft } from "../draft/useDraft";
import type { Repair } from "./Findings";
import { Outdated, patched } from "./patch";

export interface Proved {
  proof: Schema<"ProofOut"> | undefined;
  /** Whether it is of the draft as it stands. */
  current: boolean;
  /** Why there is none. */
  problem: string;
  repair: (repair: Repair) => void;
}

export function useProof(draft: Draft): Proved {
  const { id, revision, saving, doc, edit } = draft;
  const [outdated, setOutdated] = useState("");
  const query = useQuery({
    ...proof(id, revision),
    enabled: saving === "saved",
    placeholderData: keepPreviousData,
  });
  const current = saving === "saved" && query.data?.revision === revision;
  return {
    proof: query.data,
    current,
    problem: query.error?.message ?? outdated,
    repair: ({ changes }) => {
      try {
        edit(patched(doc, changes));
        setOutdated("");
      } catch (error) {
        if (!(error instanceof Outdated)) throw error;
        setOutdated("This has changed in the meantime. Look again.");
      }
    },
  };
}
