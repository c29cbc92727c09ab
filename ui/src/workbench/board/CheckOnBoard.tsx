import { memo } from "react";
import { t } from "@lingui/core/macro";
import { Button } from "../../kit/Button";
import { checkWord, wordsFor } from "../../words/words";
import { useWorkspaceWords } from "../../words/useWorkspaceWords";
import { useDraft, useDraftStore } from "../model/draft";
import { Movable } from "./Movable";

/** Check button, where it stands on the board. */
export const CheckOnBoard = memo(function CheckOnBoard() {
  const store = useDraftStore();
  const { check } = useDraft((s) => s.doc.board);
  const lang = useDraft((s) => s.doc.lang);
  const words = useDraft((s) => s.doc.words);
  const kind = useDraft((s) => s.doc.play.check);
  const shared = useWorkspaceWords(lang);
  if (!check) return null;
  return (
    <Movable
      frame={check}
      name={t`Check button`}
      onDone={(to) =>
        store.getState().change({ says: t`move Check`, merge: "move-check", apply: (d) => void (d.board.check = to) })
      }
    >
      <Button kind="main" tabIndex={-1} className="pointer-events-none size-full! px-1 leading-tight whitespace-normal">
        {wordsFor(lang, { ...shared, ...words })(checkWord(kind))}
      </Button>
    </Movable>
  );
});
