/** What an entry is about: the name of a thing in another system, and the way there. */
import type { Schema } from "../../client/client";

export function ThingName({ thing }: { thing: Schema<"ThingOut"> }) {
  if (!thing.address) return <>{thing.name}</>;
  return (
    <a href={thing.address} target="_blank" rel="noreferrer">
      {thing.name}
    </a>
  );
}
