import { createContext, useContext } from "react";
import { createStore, useStore, type StoreApi } from "zustand";
import { t } from "@lingui/core/macro";
import type { Rect } from "../../api/types";
import type { PartID } from "../../document/parts";
import { partName } from "../model/partNames";
import type { Guide } from "./snapping";

type Point = { x: number; y: number };

/** What the pointer is doing on the board. */
export type Handling =
  | { kind: "move"; parts: PartID[]; guides: Guide[] }
  | { kind: "resize"; part: PartID; frame: Rect; guides: Guide[] }
  | { kind: "bend"; at: Point }
  | { kind: "marquee"; frame: Rect }
  | { kind: "draw"; from: Point; to: Point; guides: Guide[] };

/** How the board looks while something is done to it, apart from the draft: it changes with each step of the pointer. */
export type BoardView = {
  handling: Handling | null;
  /** The parts that follow the pointer, as they are named in the page. */
  moving: ReadonlySet<string>;
  /** The part whose name or text is written. */
  naming: PartID | null;
};

const none: ReadonlySet<string> = new Set();

export const createBoardView = () => createStore<BoardView>(() => ({ handling: null, moving: none, naming: null }));

/** Says what the pointer does; what moves stays the same set while it moves. */
export function handle(view: StoreApi<BoardView>, handling: Handling | null) {
  const { handling: before, moving } = view.getState();
  if (handling?.kind !== "move") view.setState({ handling, moving: none });
  else if (before?.kind === "move" && before.parts === handling.parts) view.setState({ handling, moving });
  else view.setState({ handling, moving: new Set(handling.parts.map(partName)) });
}

const BoardViewContext = createContext<StoreApi<BoardView> | null>(null);
export const BoardViewProvider = BoardViewContext.Provider;

export function useBoardViewStore(): StoreApi<BoardView> {
  const view = useContext(BoardViewContext);
  if (!view) throw new Error(t`no board is edited here`);
  return view;
}

export function useBoardView<T>(pick: (view: BoardView) => T): T {
  return useStore(useBoardViewStore(), pick);
}
