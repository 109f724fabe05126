/** Which entries are chosen: some by name, or all that are looked at but some. */
import { useMemo, useState } from "react";

import type { Entry } from "./data";

interface Chosen {
  all: boolean;
  /** Numbers: those that are chosen, or with `all` those that are not. */
  numbers: ReadonlySet<number>;
}

const NOTHING: Chosen = { all: false, numbers: new Set() };

export interface Selection {
  count: number;
  /** Every entry that is looked at, but those in `numbers`. */
  all: boolean;
  isAll: boolean;
  numbers: readonly number[];
  has: (entry: Entry) => boolean;
  toggle: (entry: Entry) => void;
  choose: (entries: readonly Entry[]) => void;
  chooseAll: () => void;
  clear: () => void;
}

/** `fitting` is how many entries are looked at; `key` says what is: with another, none is chosen. */
export function useSelection(fitting: number, key: string): Selection {
  const [chosen, setChosen] = useState<Chosen>(NOTHING);
  const [of, setOf] = useState(key);
  if (of !== key) {
    setOf(key);
    setChosen(NOTHING);
  }
  return useMemo(() => {
    const { all, numbers } = chosen;
    return {
      all,
      count: all ? Math.max(0, fitting - numbers.size) : numbers.size,
      isAll: all && numbers.size === 0,
      numbers: [...numbers],
      has: ({ number }) => numbers.has(number) !== all,
      toggle: ({ number }) =>
        setChosen((before) => {
          const next = new Set(before.numbers);
          if (!next.delete(number)) next.add(number);
          return { ...before, numbers: next };
        }),
      choose: (entries) =>
        setChosen({ all: false, numbers: new Set(entries.map(({ number }) => number)) }),
      chooseAll: () => setChosen({ all: true, numbers: new Set() }),
      clear: () => setChosen(NOTHING),
    };
  }, [chosen, fitting]);
}
