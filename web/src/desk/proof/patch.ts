/** JSON Patch (RFC 6902), as far as repairs need it: test, add, remove and replace. */
import type { Schema } from "../../client/client";

type Change = Schema<"OperationOut">;

/** Thrown where a part is not what it was when the repair was made. */
export class Outdated extends Error {}

/** Whether two JSON values say the same; a member that is null may as well be absent. */
function same(one: unknown, other: unknown): boolean {
  if (one === other || (one == null && other == null)) return true;
  if (typeof one !== "object" || typeof other !== "object" || !one || !other) return false;
  const names = new Set([...Object.keys(one), ...Object.keys(other)]);
  return [...names].every((name) => same(member(one, name), member(other, name)));
}

function member(part: unknown, name: string): unknown {
  return (part as Record<string, unknown>)[name];
}

const stepsOf = (path: string) =>
  path
    .split("/")
    .slice(1)
    .map((step) => step.replaceAll("~1", "/").replaceAll("~0", "~"));

function valueAt(part: unknown, steps: readonly string[]): unknown {
  return steps.reduce<unknown>(
    (found, step) => (typeof found === "object" && found ? member(found, step) : undefined),
    part,
  );
}

function changed(part: unknown, [step = "", ...rest]: readonly string[], change: Change): unknown {
  if (Array.isArray(part)) {
    const at = step === "-" ? part.length : Number(step);
    if (rest.length) {
      return part.map((one: unknown, other) => (other === at ? changed(one, rest, change) : one));
    }
    const kept = [...(part as unknown[])];
    kept.splice(at, change.op === "add" ? 0 : 1, ...(change.op === "remove" ? [] : [change.value]));
    return kept;
  }
  if (typeof part !== "object" || part === null) throw new Outdated(step);
  if (rest.length) return { ...part, [step]: changed(member(part, step), rest, change) };
  const others = Object.fromEntries(Object.entries(part).filter(([name]) => name !== step));
  return change.op === "remove" ? others : { ...part, [step]: change.value };
}

/** `doc` with all of `changes`. Throws Outdated where it is not what they were made for. */
export function patched<T>(doc: T, changes: readonly Change[]): T {
  return changes.reduce<T>((now, change) => {
    const steps = stepsOf(change.path);
    if (change.op !== "test") return changed(now, steps, change) as T;
    if (!within(valueAt(now, steps), change.value)) throw new Outdated(change.path);
    return now;
  }, doc);
}

/** Whether `full`, which has every default written out, says what `mine` says. */
function within(mine: unknown, full: unknown): boolean {
  if (typeof mine !== "object" || mine === null || Array.isArray(mine)) return same(mine, full);
  return Object.entries(mine).every(([name, value]) => within(value, valueAt(full, [name])));
}
