import { useRef, useState, type DragEvent } from "react";
import { t } from "@lingui/core/macro";
import { problemOf } from "../../api/client";
import { partAt } from "./partNames";
import { sceneryOf } from "../../document/parts";
import { useDraftStore, type DraftStore } from "./draft";
import { nameOfFile, upload } from "../../kit/upload";
import { takeFiles } from "./files";

/** Gives a part, or the board's ground, a picture in place of the one it has; its frame stays. */
export async function putPicture(store: DraftStore, file: File, to: { scenery?: string; item?: string }) {
  try {
    const kept = await upload(file, file.name);
    store.getState().change({
      says: t`replace a picture`,
      apply: (doc) => {
        const s = doc.scenery.find((x) => x.id === to.scenery);
        const item = doc.items.find((x) => x.id === to.item);
        if (s) {
          s.picture = kept.id;
          if (!s.alt) s.alt = nameOfFile(file.name);
        } else if (item) item.picture = kept.id;
        else doc.board.background.picture = kept.id;
      },
    });
  } catch (error) {
    store.setState({ remark: `${file.name}: ${problemOf(error).detail}` });
  }
}

/** Lets files be dropped on an element; over says that some are above it. */
export function useFileDrop() {
  const store = useDraftStore();
  const [over, setOver] = useState(false);
  const depth = useRef(0);
  const holds = (e: DragEvent) => e.dataTransfer.types.includes("Files");
  const handlers = {
    onDragEnter: (e: DragEvent) => {
      if (!holds(e)) return;
      depth.current++;
      setOver(true);
    },
    onDragOver: (e: DragEvent) => {
      if (holds(e)) e.preventDefault();
    },
    onDragLeave: (e: DragEvent) => {
      if (!holds(e)) return;
      depth.current = Math.max(0, depth.current - 1);
      if (depth.current === 0) setOver(false);
    },
    onDrop: (e: DragEvent) => {
      if (!holds(e)) return;
      e.preventDefault();
      depth.current = 0;
      setOver(false);
      const files = [...e.dataTransfer.files];
      // One picture let go on an empty picture of the board fills that.
      const part = partAt(e.target as Element);
      const s = part?.kind === "scenery" ? sceneryOf(store.getState().doc, part.id) : undefined;
      if (files.length === 1 && s?.type === "picture") void putPicture(store, files[0]!, { scenery: s.id });
      else void takeFiles(store, files);
    },
  };
  return { over, handlers };
}
