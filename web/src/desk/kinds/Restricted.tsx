/** Who may see the answers: restricted by itself, or since it depends on what is. */
import { Tag } from "../../ui/Arm";
import { Toggle } from "../../ui/Toggle";
import { everyItem, isValued, say, type Doc, type Item } from "../document";
import { Section } from "../shell/Section";
import type { useDraft } from "../draft/useDraft";

type Draft = ReturnType<typeof useDraft>;

function named(doc: Doc, keys: readonly string[]): string {
  const items = new Map(everyItem(doc).map((item) => [item.key, item]));
  const words = keys.map((key) => {
    const item = items.get(key);
    return `“${(item && say(doc, item.text)) || key}”`;
  });
  return words.join(" and ");
}

/** Beside a question in the script. */
export function RestrictedTag({ item, draft }: { item: Item; draft: Draft }) {
  if (!isValued(item)) return null;
  if (item.restricted) return <Tag $as="care">Restricted</Tag>;
  const causes = draft.depending.items[item.key];
  if (causes) return <Tag $as="care">Restricted through {causes.join(", ")}</Tag>;
  return draft.depending.freed.includes(item.key) ? <Tag $as="plain">Set free</Tag> : null;
}

interface WhoProps {
  item: Item;
  draft: Draft;
  onChange: (change: (item: Item) => Item) => void;
}

/** In the bench of a question. */
export function WhoMaySee({ item, draft, onChange }: WhoProps) {
  const { doc, depending } = draft;
  const restricted = isValued(item) && Boolean(item.restricted);
  const causes = depending.items[item.key] ?? [];
  const freed = item.freed ?? false;
  return (
    <Section title="Who may see the answers">
      <Toggle
        isSelected={restricted}
        onChange={(on) => onChange((one) => ({ ...one, restricted: on }) as Item)}
      >
        Only people with clearance
      </Toggle>
      {!restricted && causes.length ? (
        <p>
          It depends on {named(doc, causes)}, so it could give that away. Only people with clearance
          see it.
        </p>
      ) : null}
      {!restricted && (causes.length || freed) ? (
        <Toggle isSelected={freed} onChange={(on) => onChange((one) => ({ ...one, freed: on }))}>
          Open to all staff all the same
        </Toggle>
      ) : null}
    </Section>
  );
}

/** In the bench of a finish, where it can give a restricted answer away. */
export function WhoSeesTheEnd({ draft }: { draft: Draft }) {
  const { doc, depending, edit } = draft;
  const freed = doc.finish_freed ?? false;
  if (!depending.finish.length && !freed) return null;
  return (
    <Section title="Who may see where it ended">
      {depending.finish.length ? (
        <p>
          Which finish it is depends on {named(doc, depending.finish)}. Only people with clearance
          see it.
        </p>
      ) : null}
      <Toggle isSelected={freed} onChange={(on) => edit((now) => ({ ...now, finish_freed: on }))}>
        Open to all staff all the same
      </Toggle>
    </Section>
  );
}
