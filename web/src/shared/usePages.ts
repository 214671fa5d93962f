import { type QueryKey, useInfiniteQuery } from "@tanstack/react-query";
import { useMemo } from "react";

interface Page<Item> {
  items: Item[];
  count: number;
}

/** What is asked of a list: how many rows, after how many. */
export interface Range {
  limit: number;
  offset: number;
}

/** A list that comes in pages: what has come so far, how many there are in all, and the way to the next page. */
export function usePages<Item>(
  queryKey: QueryKey,
  ask: (range: Range) => Promise<Page<Item>>,
  { limit = 60, refetchInterval }: { limit?: number; refetchInterval?: (items: Item[]) => number | false } = {},
) {
  const query = useInfiniteQuery({
    queryKey,
    queryFn: ({ pageParam }) => ask({ limit, offset: pageParam }),
    initialPageParam: 0,
    getNextPageParam: (_last, pages: Page<Item>[]) => {
      const there = pages.reduce((sum, page) => sum + page.items.length, 0);
      return there < (pages.at(-1)?.count ?? 0) ? there : undefined;
    },
    placeholderData: (old) => old,
    staleTime: 0,
    refetchInterval: ({ state }) =>
      refetchInterval && state.data ? refetchInterval(state.data.pages.flatMap((page) => page.items)) : false,
  });
  const items = useMemo(() => query.data?.pages.flatMap((page) => page.items) ?? [], [query.data]);
  return {
    items,
    count: query.data?.pages.at(-1)?.count ?? 0,
    isPending: query.isPending,
    /** Whether these still answer what was asked before: to be looked at, not to be chosen from. */
    isOld: query.isPlaceholderData,
    isSuccess: query.isSuccess,
    error: query.error,
    hasMore: query.hasNextPage,
    more: () => void (query.isFetchingNextPage || query.fetchNextPage()),
  };
}
