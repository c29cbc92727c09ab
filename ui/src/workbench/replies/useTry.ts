import { useState } from "react";
import { prover } from "../../engine/engine";
import { useDraftStore } from "../draft";
import { replyName } from "../rehearse/trailWords";

/** Shows a reply on the board in a situation in which it is given, or says why it can never come. */
export function useTry(id: string) {
  const store = useDraftStore();
  const [said, setSaid] = useState("");
  const tryIt = async () => {
    const { doc } = store.getState();
    const off = doc.replies.find((r) => r.id === id)?.off;
    if (off) return setSaid("It is switched off.");
    setSaid("Looking for a situation…");
    try {
      const { moves, shadowed } = await prover.tryReply(doc, id);
      if (moves) {
        setSaid("");
        store.setState({ toRehearse: { moves }, reply: id });
      } else if (shadowed) {
        setSaid(`It can never come: ${replyName(doc, shadowed)} stands before it and is given in its place.`);
      } else {
        setSaid("It can never come: no situation was found in which all of its conditions hold.");
      }
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
  };
  return { tryIt: () => void tryIt(), said };
}
