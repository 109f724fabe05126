/** A list that is read a page at a time. */
import { useInfiniteQuery } from "@tanstack/react-query";

interface Page {
  more: boolean;
}

/**
 * `read` gets a page: the rows behind the one that `last` names on the page before it.
 */
export function useOlder<P extends Page, K = number>(
  name: readonly unknown[],
  read: (before: K | null) => Promise<P>,
  last: (page: P) => K | undefined,
  /** Milliseconds after which it is read again, where others change it. */
  again: number | false = false,
) {
  return useInfiniteQuery({
    queryKey: name,
    queryFn: ({ pageParam }) => read(pageParam as K | null),
    initialPageParam: null as K | null,
    getNextPageParam: (page) => (page.more ? (last(page) ?? null) : null),
    refetchInterval: again,
  });
}
