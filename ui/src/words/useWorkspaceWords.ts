import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";

const none: Record<string, string> = {};

/** The workspace's own words for learners, in a language. */
export function useWorkspaceWords(lang: string): { words: Record<string, string>; key: readonly string[] } {
  const key = ["words", lang] as const;
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/words/{lang}", { params: { path: { lang } } })),
    staleTime: 60000,
  });
  return { words: data?.words ?? none, key };
}
