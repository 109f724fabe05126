/** How two answers can compare, in words. */
import type { Schema } from "../../client/client";

export const RELATIONS: Record<Schema<"CrossCheck">["relation"], string> = {
  at_least: "is at least",
  at_most: "is at most",
  more_than: "is more than",
  less_than: "is less than",
  is: "is the same as",
  is_not: "is not the same as",
};
