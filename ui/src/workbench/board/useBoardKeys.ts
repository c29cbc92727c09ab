import type { KeyboardEvent, RefObject } from "react";
import { t } from "@lingui/core/macro";
import { move, resize } from "../model/changes";
import type { PartID } from "../../document/parts";
import { useClipboard } from "../../kit/useClipboard";
import { act, group, selectAll } from "../model/acts";
import { copyParts, pasteParts, textOfParts } from "../model/clipboard";
import { takeFiles } from "../model/files";
import { isSelected, nothing, partsOf, selectionOf, useDraftStore, withGroups } from "../model/draft";
import { frameOf } from "../model/frames";
import { partAt } from "../model/partNames";

/** What keys and the clipboard do to the part that has the focus, and to what is selected. */
export function useBoardKeys(board: RefObject<HTMLElement | null>, name: (part: PartID) => void) {
  const store = useDraftStore();
  const wanted = (part: PartID) => {
    const { selection, doc } = store.getState();
    if (!isSelected(selection, part)) store.getState().select(selectionOf(withGroups(doc, [part])));
    return store.getState().selection;
  };

  const onKeyDown = (e: KeyboardEvent) => {
    const element = e.target as HTMLElement;
    if (element.closest("[data-editor], input, textarea")) return;
    if (e.key === "Escape") {
      if (store.getState().tool === "select") store.getState().select(nothing);
      return; // a tool is put away wherever the focus is: see useWorkbenchKeys
    }
    const part = partAt(element) ?? (element === board.current ? partsOf(store.getState().selection)[0] : undefined);
    if (!part) return;
    const by = e.shiftKey ? 10 : 1;
    const command = e.ctrlKey || e.metaKey;
    const key = e.key.toLowerCase();
    const [dx, dy] =
      { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[e.key] ?? ([0, 0] as const);
    if ((dx || dy) && !command) {
      const parts = partsOf(wanted(part));
      const { doc } = store.getState();
      const frame = frameOf(doc, part);
      if (e.altKey && frame) {
        store.getState().change(resize(part, { ...frame, w: frame.w + dx!, h: frame.h + dy! }, `resize ${part.id}`));
      } else {
        store.getState().change(move(parts, dx!, dy!, "nudge " + parts.map((p) => p.id).join()));
      }
    } else if (e.key === "F2") name(part);
    else if (e.key === "Enter" && e.altKey) {
      wanted(part);
      store.setState({ sheet: true });
    } else if (e.key === "Enter" || e.key === " ") {
      if (e.key === "Enter" && isSelected(store.getState().selection, part) && part.kind === "scenery") name(part);
      else if (e.shiftKey || command) {
        const { selection } = store.getState();
        const parts = partsOf(selection).filter((p) => p.kind !== part.kind || p.id !== part.id);
        store.getState().select(selectionOf(isSelected(selection, part) ? parts : [...parts, part]));
      } else store.getState().select(selectionOf(withGroups(store.getState().doc, [part])));
    } else if (e.key === "Delete" || e.key === "Backspace") {
      wanted(part);
      act(store, "delete", "remove");
    } else if (command && key === "d") {
      wanted(part);
      act(store, "duplicate", "duplicate");
    } else if (command && key === "g") {
      wanted(part);
      group(store, !e.shiftKey);
    } else if (command && (e.key === "]" || e.key === "[")) {
      wanted(part);
      const name = e.key === "]" ? (e.shiftKey ? "front" : "forward") : e.shiftKey ? "back" : "backward";
      act(store, t`change the drawing order`, name);
    } else if (command && key === "a") {
      selectAll(store);
    } else return;
    e.preventDefault();
  };

  useClipboard(board, {
    copy: (e) => {
      const part = partAt(document.activeElement as HTMLElement);
      if (!part && partsOf(store.getState().selection).length === 0) return;
      const parts = part ? wanted(part) : store.getState().selection;
      const { doc } = store.getState();
      copyParts(store, parts, e.type === "cut");
      return textOfParts(doc, parts);
    },
    paste: (e) => {
      const files = [...(e.clipboardData?.files ?? [])];
      if (files.length > 0) void takeFiles(store, files);
      else void pasteParts(store, e.clipboardData?.getData("text/plain"));
    },
    alsoFromNowhere: true,
  });
  return { onKeyDown };
}
