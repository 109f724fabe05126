/** A list that is read from the newest back, a page at a time. */
import { useInfiniteQuery } from "@tanstack/react-query";

interface Page {
  more: boolean;
}

/**
 * `read` gets a page: the rows before the one that `last` names on the page before it.
 */
export function useOlder<P extends Page>(
  name: readonly unknown[],
  read: (before: number | null) => Promise<P>,
  last: (page: P) => number | undefined,
) {
  return useInfiniteQuery({
    queryKey: name,
    queryFn: ({ pageParam }) => read(pageParam),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => (page.more ? (last(page) ?? null) : null),
  });
}
