/** Three versions of a part brought together: what one changed goes on, what both did clashes. */
import { dequal } from "dequal";
import { keyFrom } from "../../keys";
import { order } from "./order";

export type Whose = "mine" | "theirs";

/** The same thing changed by both. `path` is made of members, keys and codes, by `/`. */
export interface Clashing {
  path: string;
  mine: unknown;
  theirs: unknown;
}

/** Whose version of the part at `path` goes on, where somebody has said so. */
export type Choose = (path: string) => Whose | undefined;

export type Members = Readonly<Record<string, unknown>>;
type Named<T> = Readonly<Record<string, T>>;

export class Merging {
  readonly clashes: Clashing[] = [];
  private readonly choose: Choose;

  constructor(choose: Choose) {
    this.choose = choose;
  }

  /** Record a clash: whose version goes on, mine where nobody has said so. */
  clash(path: string, mine: unknown, theirs: unknown): Whose | undefined {
    this.clashes.push({ path, mine, theirs });
    return this.choose(path);
  }

  value(path: string, base: unknown, mine: unknown, theirs: unknown): unknown {
    if (dequal(mine, theirs) || dequal(base, theirs)) return mine;
    if (dequal(base, mine)) return theirs;
    if (isMembers(mine) && isMembers(theirs) && sameKind(base, mine, theirs)) {
      return this.members(path, isMembers(base) ? base : {}, mine, theirs);
    }
    const name = nameOf(base, mine, theirs);
    if (name) {
      const lists = [base ?? [], mine, theirs] as [Members[], Members[], Members[]];
      return this.list(path, name, ...lists);
    }
    const whose = this.clash(path, mine, theirs);
    if (whose === undefined) return mine ?? theirs;
    return whose === "mine" ? mine : theirs;
  }

  /** Member by member; one that is absent stands for what the other says. */
  members(path: string, base: Members, mine: Members, theirs: Members): Members {
    const kept: Record<string, unknown> = {};
    for (const name of new Set([...Object.keys(mine), ...Object.keys(theirs)])) {
      const [m, t] = [mine[name], theirs[name]];
      const at = path ? `${path}/${name}` : name;
      const one = m === undefined ? t : t === undefined ? m : this.value(at, base[name], m, t);
      if (one !== undefined) kept[name] = one;
    }
    return kept;
  }

  /** Things by name, each of which can be new or gone. */
  map<T>(path: string, base: Named<T>, mine: Named<T>, theirs: Named<T>): Record<string, T> {
    const names = [base, mine, theirs].flatMap((one) => Object.keys(one));
    const kept: Record<string, T> = {};
    for (const name of new Set(names)) {
      const one = this.value(`${path}/${name}`, base[name], mine[name], theirs[name]);
      if (one !== undefined) kept[name] = one as T;
    }
    return kept;
  }

  private list(
    path: string,
    name: "key" | "code",
    base: readonly Members[],
    mine: readonly Members[],
    theirs: readonly Members[],
  ): Members[] {
    const own = name === "code" ? recoded(base, mine, theirs) : mine;
    const [b, m, t] = [byName(base, name), byName(own, name), byName(theirs, name)];
    const merged = this.map(path, b, m, t);
    const [known, first, second] = [b, m, t].map((one) => Object.keys(one));
    const keys = order(known ?? [], first, second, new Set(Object.keys(merged)));
    return keys.map((key) => merged[key]).filter((one) => one !== undefined);
  }
}

function byName(list: readonly Members[], name: string): Record<string, Members> {
  return Object.fromEntries(list.map((one) => [String(one[name]), one]));
}

/** Options that both added under one code: mine get another. */
function recoded(
  base: readonly Members[],
  mine: readonly Members[],
  theirs: readonly Members[],
): Members[] {
  const [known, own, others] = [base, mine, theirs].map((list) => byName(list, "code"));
  const taken = new Set([...Object.keys(own ?? {}), ...Object.keys(others ?? {})]);
  return mine.map((one) => {
    const code = String(one["code"]);
    const other = others?.[code];
    if (known?.[code] || !other || dequal(one, other)) return one;
    const next = keyFrom(code, taken, "option");
    taken.add(next);
    return { ...one, code: next };
  });
}

function isMembers(value: unknown): value is Members {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** Things of different kinds are not mixed, and neither are rules. */
function sameKind(base: unknown, mine: Members, theirs: Members): boolean {
  if ("op" in mine || "op" in theirs) return false;
  if (base !== undefined && base !== null && !isMembers(base)) return false;
  return ["kind", "do"].every((name) => {
    const before = isMembers(base) ? base[name] : mine[name];
    return mine[name] === theirs[name] && mine[name] === before;
  });
}

/** What tells the members of the lists apart, null where nothing does. */
function nameOf(...lists: readonly unknown[]): "key" | "code" | null {
  const [base, mine, theirs] = lists;
  if (!Array.isArray(mine) || !Array.isArray(theirs) || !Array.isArray(base ?? [])) return null;
  const all = [...((base ?? []) as unknown[]), ...(mine as unknown[]), ...(theirs as unknown[])];
  const named = (name: string) =>
    all.every((one) => isMembers(one) && typeof one[name] === "string");
  return named("key") ? "key" : named("code") ? "code" : null;
}
