import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";

const none: Record<string, string> = {};

/** The workspace's own words for learners, in a language: under which key they are kept here, and how they are read. */
export const workspaceWords = (lang: string) => ({
  queryKey: ["words", lang] as const,
  queryFn: () => ask(api.GET("/api/words/{lang}", { params: { path: { lang } } })),
});

/** These words, as far as they have been read. */
export function useWorkspaceWords(lang: string): Record<string, string> {
  const { data } = useQuery({ ...workspaceWords(lang), staleTime: 60000 });
  return data?.words ?? none;
}
