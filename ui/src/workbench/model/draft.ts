import { createContext, useContext } from "react";
import { createStore, useStore, type StoreApi } from "zustand";
import { t } from "@lingui/core/macro";
import type { Doc, Draft, Move } from "../../api/types";
import { documentSession, type Merge, type Session } from "../../document/history";
import {
  engine,
  EngineError,
  type Covers,
  type Edit,
  type Edited,
  type Known,
  type Sentence,
  type Situation,
  type Way,
} from "../../engine/engine";
import { takeDocument, tieLines } from "./changes";
import { type PartID } from "../../document/parts";

/** What is selected, by kind; first is what others are lined up to and sized as. */
export type Selection = { items: string[]; targets: string[]; scenery: string[]; first?: PartID };
export const nothing: Selection = { items: [], targets: [], scenery: [] };

const lists = { item: "items", target: "targets", scenery: "scenery" } as const;

/** A selection of these parts. */
export function selectionOf(parts: PartID[]): Selection {
  const out: Selection = { items: [], targets: [], scenery: [], first: parts[0] };
  for (const p of parts) out[lists[p.kind]].push(p.id);
  return out;
}

export type DraftState = Session<Doc> & {
  selection: Selection;
  /** Parts under the pointer on the other side: lifted, the rest is dimmed. */
  pointed: Selection;
  known?: Known;
  /** A fault that the engine found in the draft. */
  fault?: string;
  /** A dialog over the workbench, or none. */
  asking:
    | "release"
    | ""
    | "find"
    | "keys"
    | "revisions"
    | "media"
    | "table"
    | "swap"
    | "theme"
    | "tags"
    | "tagPlaces"
    | "draftLinks"
    | "comments";
  /** The file or the rows that the table dialog begins with. */
  table?: File | string;
  /** What the pointer does on the board: select, or what it draws. */
  tool: string;
  /** Where a tool is led by keys, and where what it draws begins. */
  crosshair?: { at: Point; from?: Point };
  /** The sheet of what is selected is open. */
  sheet: boolean;
  /** How much larger than fitting the board is. */
  zoom: number;
  /** The reading order is shown on the board. */
  showOrder: boolean;
  /** How board and ledger share the room. */
  divider: "board" | "even" | "ledger";
  /** What the ledger shows. */
  lens: string;
  /** Files that come are for cards: those of the items that are selected. */
  cards: boolean;
  /** There are items that the activity began with, unchanged. */
  samples: boolean;
  /** The Placing lens shows a row's targets instead of cells; until it is chosen, as the kind suggests. */
  byItem?: boolean;
  /** The solution that is looked at. */
  solution: number;
  /** What is right is being shown on the board; it begins with what was shown already. */
  demonstrating: boolean;
  shownFirst?: Record<string, string[]>;
  /** The activity has been released: there are outcomes. */
  released: boolean;
  /** Which release and state the Outcomes lens shows; without one the newest. */
  looked: { release?: string; which: "first" | "final" };
  /** The Replies lens shows all replies, or those of each item. */
  allReplies?: boolean;
  /** In which situations replies are given, as far as it is known. */
  covers?: Covers;
  /** The reply that is looked at. */
  reply?: string;
  /** Several replies that are changed together, and with which one they were chosen. */
  together?: { with: string; ids: string[] };
  /** The reply whose text takes the caret; n counts how often it was asked for. */
  writing?: { reply: string; n: number };
  /** A situation that a reply is to be made for. */
  situation?: Situation;
  /** The cell that the ledger is to go to. */
  cellAsked?: { item: string; target: string };
  /** Moves that are to be rehearsed; setting says that a situation is being set up. */
  toRehearse?: { moves: Move[]; setting?: boolean };
  /** A valid arrangement shown on the board, and which one it is. */
  way?: Way & { number: number };
  /** The proof's panel is open. */
  proofOpen: boolean;
  /** What parts are lined up to: selection, first or board. */
  alignTo: string;
  /** What the last act took with it, or why it could not be done; said until something else is selected or done. */
  remark: string;
  /** An act that the core carries out; one after the other. What was made is selected then; nothing comes back where it could not be done. */
  edit(says: string, edit: Edit, merge?: Merge): Promise<Selection | undefined>;
  /** Runs acts that wait for the engine one after the other, each from the document that the one before left. */
  queue(act: () => Promise<void>): Promise<void>;
  /** What is left out of a selection is none. */
  select(selection: Partial<Selection>): void;
  point(selection: Partial<Selection>): void;
};

type Point = { x: number; y: number };

export type DraftStore = StoreApi<DraftState>;

let written = 0;
/** Chooses one reply with the caret in its text, also where it is chosen already. */
export const writing = (reply: string) => ({
  reply,
  together: undefined,
  situation: undefined,
  writing: { reply, n: ++written },
});

export const lostWords = (lost: Sentence[]) =>
  t`Also removed: ${lost.map((l) => l.message).join(", ")}. Undo restores everything.`;

/** Why an act could not be done, without the places in the document that nobody sees. */
function reason(error: unknown): string {
  const faults = error instanceof EngineError ? error.failure.faults : undefined;
  return faults?.[0]?.message ?? (error instanceof Error ? error.message : String(error));
}

/** One activity being worked on: its document with undo, what is selected, how it stands with saving. */
export function createDraft(draft: Draft, mayChange = true): DraftStore {
  let last = Promise.resolve();
  return createStore<DraftState>((set, get) => ({
    ...documentSession<Doc, DraftState>(draft, set, get, {
      mayChange,
      settle: tieLines,
      view: ({ selection, lens }) => ({ selection, lens }),
      over: { remark: "", way: undefined },
      overByUndo: { remark: "" },
    }),
    remark: "",
    samples: false,
    cards: false,
    asking: "",
    lens: "placing",
    released: draft.releases > 0,
    looked: { which: "first" },
    solution: 0,
    demonstrating: false,
    proofOpen: false,
    alignTo: "selection",
    tool: "select",
    sheet: false,
    zoom: 1,
    showOrder: false,
    divider: "even",
    selection: nothing,
    pointed: nothing,
    queue: (act) => {
      const mine = last.then(act).catch((error: unknown) => set({ remark: t`Couldn’t do that: ${reason(error)}` }));
      last = mine;
      set({ acting: mine });
      return mine.finally(() => get().acting === mine && set({ acting: undefined }));
    },
    edit: async (says, edit, merge) => {
      let made: Selection | undefined;
      if (get().refuses()) return made;
      await get().queue(async () => {
        // What changes meanwhile is not lost: the act is then done again to that.
        let doc: Doc;
        let done: Edited;
        do {
          doc = get().doc;
          done = await engine.edit(doc, edit);
        } while (get().doc !== doc);
        get().change({ ...takeDocument(done.document, says), merge });
        const { items, targets, scenery } = done.made;
        made = { items: items ?? [], targets: targets ?? [], scenery: scenery ?? [] };
        if (partsOf(made).length > 0) set({ selection: selectionOf(partsOf(made)) });
        else if (edit.act === "remove") set({ selection: nothing });
        if (done.solution !== undefined && done.solution >= 0) set({ solution: done.solution });
        if (done.reply) set(writing(done.reply));
        const told = [
          ...(done.told ?? []).map((sentence) => sentence.message),
          ...(done.lost.length > 0 ? [lostWords(done.lost)] : []),
        ];
        set({ remark: told.join(" ") });
      });
      return made;
    },
    select: (selection) => set({ selection: { ...nothing, ...selection }, remark: "" }),
    point: (pointed) => set({ pointed: { ...nothing, ...pointed } }),
  }));
}

const DraftContext = createContext<DraftStore | null>(null);
export const DraftProvider = DraftContext.Provider;

export function useDraftStore(): DraftStore {
  const store = useContext(DraftContext);
  if (!store) throw new Error(t`no draft is open here`);
  return store;
}

export function useDraft<T>(pick: (state: DraftState) => T): T {
  return useStore(useDraftStore(), pick);
}

export const isSelected = (s: Selection, part: PartID) => s[lists[part.kind]].includes(part.id);

/** The parts with all that are grouped with one of them. */
export function withGroups(doc: Doc, parts: PartID[]): PartID[] {
  const groups = new Set<string>();
  for (const { kind, id } of parts) {
    const group = doc[lists[kind]].find((x) => x.id === id)?.group;
    if (group) groups.add(group);
  }
  if (groups.size === 0) return parts;
  const out = [...parts];
  for (const kind of ["item", "target", "scenery"] as const) {
    for (const x of doc[lists[kind]]) {
      if (groups.has(x.group) && !out.some((p) => p.kind === kind && p.id === x.id)) out.push({ kind, id: x.id });
    }
  }
  return out;
}

export const partsOf = (s: Selection): PartID[] => [
  ...s.targets.map((id) => ({ kind: "target" as const, id })),
  ...s.items.map((id) => ({ kind: "item" as const, id })),
  ...s.scenery.map((id) => ({ kind: "scenery" as const, id })),
];
