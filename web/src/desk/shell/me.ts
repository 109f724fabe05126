/** Who is signed in. */
import { createContext, useContext } from "react";

import type { Schema } from "../../client/client";

export const MeContext = createContext<Schema<"Me"> | null>(null);

export function useMe(): Schema<"Me"> {
  const me = useContext(MeContext);
  if (!me) throw new Error("nobody is signed in here");
  return me;
}
