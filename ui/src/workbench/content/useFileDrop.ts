import { useRef, useState, type DragEvent } from "react";
import { useDraftStore } from "../draft";
import { takePictures } from "./pictures";

/** Lets picture files be dropped on an element; over says that some are above it. */
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
      void takePictures(store, [...e.dataTransfer.files]);
    },
  };
  return { over, handlers };
}
