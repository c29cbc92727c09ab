import { useDeferredValue } from "react";
import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";

/** The activities on the shelf with these words in the title or the kind, a page at a time. */
export function useShelf(find: string) {
  const words = useDeferredValue(find.trim());
  return useInfiniteQuery({
    queryKey: ["shelf", "find", words],
    queryFn: ({ pageParam: after }) => ask(api.GET("/api/activities", { params: { query: { find: words, after } } })),
    initialPageParam: "",
    getNextPageParam: (page) => page.next,
    select: (data) => data.pages.flatMap((page) => page.activities),
    placeholderData: keepPreviousData,
  });
}

/** The series on the shelf, as [useShelf] has the activities. */
export function useSeriesShelf(find: string) {
  const words = useDeferredValue(find.trim());
  return useInfiniteQuery({
    queryKey: ["series-list", words],
    queryFn: ({ pageParam: after }) => ask(api.GET("/api/series", { params: { query: { find: words, after } } })),
    initialPageParam: "",
    getNextPageParam: (page) => page.next,
    select: (data) => data.pages.flatMap((page) => page.series),
    placeholderData: keepPreviousData,
  });
}

/** Some activities by their ids; those that are there no more are left out. */
export function useCards(ids: string[]) {
  const of = [...new Set(ids)].sort();
  return useQuery({
    queryKey: ["shelf", "of", of],
    queryFn: async () =>
      of.length === 0 ? [] : (await ask(api.GET("/api/activities", { params: { query: { ids: of } } }))).activities,
    placeholderData: keepPreviousData,
  });
}
