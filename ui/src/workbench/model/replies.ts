import { t } from "@lingui/core/macro";
import type { Condition, Doc, Reply } from "../../api/types";
import type { Change } from "./changes";
import type { DraftStore } from "./draft";

export const moments: [Reply["moment"], string, string][] = [
  ["opened", t`On opening`, t`before the first move`],
  ["placed", t`When a piece is put down`, t`also where it is not accepted`],
  ["checked", t`When it is checked`, ""],
  ["hinted", t`When a hint is given`, ""],
  ["timeUp", t`When the time is up`, ""],
  ["done", t`When it is over`, t`after the last check`],
  ["review", t`In the review`, ""],
];

/** Until when it stands. */
export const untilOf = (r: Reply) => r.until ?? (r.spot === "card" || r.spot === "board" ? "closed" : "check");

export const replyOf = (doc: Doc, id: string | undefined) => doc.replies.find((r) => r.id === id);

/** The card that opens when a piece of the item is placed right. */
export const cardOf = (doc: Doc, item: string) =>
  doc.replies.find((r) => {
    if (r.moment !== "placed" || r.spot !== "card" || !r.when || !("all" in r.when)) return false;
    const [piece, what] = r.when.all;
    return (
      r.when.all.length === 2 &&
      !!piece &&
      "piece" in piece &&
      !piece.piece.all &&
      !piece.piece.tags?.length &&
      piece.piece.items?.length === 1 &&
      piece.piece.items[0] === item &&
      !!what &&
      "result" in what &&
      what.result === "right"
    );
  });

function freshID(doc: Doc, base: string): string {
  const taken = new Set(doc.replies.map((r) => r.id));
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!taken.has(id)) return id;
  }
}

/** Adds a reply, where it is tried before what is less particular, and goes to it. */
export function add(store: DraftStore, reply: Partial<Reply>): void {
  store.setState({ situation: undefined });
  void store.getState().edit(t`add a reply`, { act: "addReply", reply });
}

/** Changes the situation of a reply. */
export function situate(store: DraftStore, id: string, facts: Condition[]): void {
  void store
    .getState()
    .edit(t`change the situation`, { act: "situate", reply: { id, when: whenOf(facts) } }, `situation ${id}`);
}

/** Changes replies, as one step. */
export function change(
  store: DraftStore,
  ids: string | string[],
  says: string,
  apply: (r: Reply) => void,
  merge?: string,
): void {
  const list = [ids].flat();
  store.getState().change({
    says,
    merge: merge && `${merge} ${list.join()}`,
    apply: (d) => d.replies.forEach((r) => list.includes(r.id) && apply(r)),
  });
}

export function duplicate(store: DraftStore, id: string): void {
  const { doc } = store.getState();
  const from = replyOf(doc, id);
  if (!from) return;
  const copy = { ...structuredClone(from), id: freshID(doc, from.id.slice(0, 56)) };
  store.getState().change({
    says: t`duplicate a reply`,
    apply: (d) => void d.replies.splice(d.replies.findIndex((r) => r.id === id) + 1, 0, copy),
  });
  store.setState({ reply: copy.id });
}

export function drop(store: DraftStore, ids: string[]): void {
  store.getState().change({
    says: ids.length === 1 ? t`delete a reply` : t`delete replies`,
    apply: (d) => void (d.replies = d.replies.filter((r) => !ids.includes(r.id))),
  });
}

/** The replies that are changed together: the chosen one alone, unless more were chosen with it. */
export const chosenReplies = (s: { reply?: string; together?: { with: string; ids: string[] } }): string[] =>
  !s.reply ? [] : s.together?.with === s.reply ? s.together.ids : [s.reply];

/** Chooses more replies with the one that is chosen: each up to one, or that one, or it no longer. */
export function chooseWith(store: DraftStore, id: string, all: boolean): void {
  const { reply, doc } = store.getState();
  const had = chosenReplies(store.getState());
  if (!reply) return store.setState({ reply: id });
  const order = moments.flatMap(([moment]) => doc.replies.filter((r) => r.moment === moment).map((r) => r.id));
  const [a, b] = [order.indexOf(reply), order.indexOf(id)].sort((x, y) => x - y) as [number, number];
  const ids = all ? order.slice(a, b + 1) : had.includes(id) ? had.filter((x) => x !== id) : [...had, id];
  const first = ids.includes(reply) ? reply : ids[0];
  store.setState({
    reply: first,
    together: first && ids.length > 1 ? { with: first, ids } : undefined,
    situation: undefined,
    writing: undefined,
  });
}

/** Moves a reply among those of its moment, by so many places. */
export function moveBy(doc: Doc, id: string, by: number): Change {
  const moment = replyOf(doc, id)?.moment;
  const own = doc.replies.filter((r) => r.moment === moment).map((r) => r.id);
  const at = own.indexOf(id);
  const to = Math.max(0, Math.min(own.length - 1, at + by));
  const next = own.filter((x) => x !== id);
  next.splice(to, 0, id);
  return {
    says: t`reorder replies`,
    merge: `reorder ${id}`,
    apply: (d) => {
      // Those of the moment take each other's places; the others stay where they are.
      const byID = new Map(d.replies.map((r) => [r.id, { ...r }]));
      let k = 0;
      d.replies = d.replies.map((r) => (r.moment === moment ? byID.get(next[k++]!)! : byID.get(r.id)!));
    },
  };
}

/** The conditions of a reply, as a list of which all must hold. */
export const factsOf = (r: Reply): Condition[] => (!r.when ? [] : "all" in r.when ? r.when.all : [r.when]);

/** Facts as a reply's condition. */
export const whenOf = (facts: Condition[]): Condition | undefined =>
  facts.length === 0 ? undefined : facts.length === 1 ? facts[0] : { all: facts };
