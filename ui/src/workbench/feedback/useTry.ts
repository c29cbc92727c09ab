import { useState } from "react";
import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { prover, type Called } from "../../engine/engine";
import { useDraft, useDraftStore } from "../model/draft";

/** Why a reply never comes: another takes its place, or nothing fits. */
export const neverWords = (called: Called | undefined, shadowed: string | undefined) =>
  shadowed
    ? t`Never shown: ${called?.[shadowed]?.message ?? shadowed} comes first and is shown instead.`
    : t`Never shown: its conditions can’t all be true.`;

/** Shows a reply on the board in a situation in which it is given, or says of this draft why it can never come. */
export function useTry(id: string) {
  const store = useDraftStore();
  const now = useDraft((s) => s.doc);
  const [said, setSaid] = useState<{ of: Doc; text: string }>();
  const tryIt = async () => {
    const { doc, known } = store.getState();
    const say = (text: string) => setSaid({ of: doc, text });
    if (doc.replies.find((r) => r.id === id)?.off) return say(t`It is switched off.`);
    say(t`Searching…`);
    try {
      const { moves, shadowed } = await prover.tryReply(doc, id);
      say(moves ? "" : neverWords(known?.called, shadowed));
      if (moves) store.setState({ toRehearse: { moves }, reply: id });
    } catch (error) {
      say(error instanceof Error ? error.message : String(error));
    }
  };
  return { tryIt: () => void tryIt(), said: said?.of === now ? said.text : "" };
}
