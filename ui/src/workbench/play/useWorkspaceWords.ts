import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { useDraft } from "../draft";

const none: Record<string, string> = {};

/** The workspace's own words for learners, in the language of the draft. */
export function useWorkspaceWords(): { words: Record<string, string>; key: readonly string[]; lang: string } {
  const lang = useDraft((s) => s.doc.lang);
  const key = ["words", lang] as const;
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/words/{lang}", { params: { path: { lang } } })),
    staleTime: 60000,
  });
  return { words: data?.words ?? none, key, lang };
}
