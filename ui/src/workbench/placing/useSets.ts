import { useMemo } from "react";
import { useSame } from "../../kit/useSame";
import { useDraft } from "../model/draft";

type Sets = ReadonlyMap<string, ReadonlySet<string>>;
const empty: Record<string, string[]> = {};

/** What the cells show: what is right and let in, by which tags, with which exceptions, and where two solutions differ. */
export function useSets(solution: number, compare?: number) {
  const right = useDraft((s) => s.known?.cells.right[solution]) ?? empty;
  const lets = useDraft((s) => s.known?.cells.lets) ?? empty;
  const other = useDraft((s) => (compare === undefined ? undefined : s.known?.cells.right[compare]));
  const must = useDraft((s) => s.known?.must[solution]);
  const orders = useDraft((s) => s.doc.key.solutions[solution]?.orders);
  const selectors = useDraft((s) => s.doc.key.solutions[solution]?.right);
  const items = useDraft((s) => s.doc.items);
  const tagged = useSame(items.map(({ id, tags }) => ({ id, tags })));
  const rightOf = useMemo(() => byItem(right), [right]);
  const letsOf = useMemo(() => byItem(lets), [lets]);
  const differs = useMemo(
    () => (other ? difference(rightOf, byItem(other)) : new Map<string, Set<string>>()),
    [rightOf, other],
  );
  const [byTag, except] = useMemo(() => {
    const tags = new Map<string, Set<string>>();
    const but = new Map<string, Set<string>>();
    for (const [target, s] of Object.entries(selectors ?? {})) {
      if (s.tags.length > 0) tags.set(target, new Set(s.tags));
      const out = s.except.filter(
        (id) => s.all || tagged.find((i) => i.id === id)?.tags.some((t) => s.tags.includes(t)),
      );
      if (out.length > 0) but.set(target, new Set(out));
    }
    return [tags, but];
  }, [selectors, tagged]);
  const ranks = useMemo(
    () =>
      new Map((orders ?? []).map((o) => [o.target, new Map(o.tiers.flatMap((t, i) => t.map((id) => [id, i + 1])))])),
    [orders],
  );
  const mustOf = useMemo(() => new Map(items.map((item, i) => [item.id, must?.[i]?.message ?? ""])), [items, must]);
  return { right: rightOf, lets: letsOf, byTag, except, differs, ranks, must: mustOf };
}

/** The targets of each item, from the items of each target. */
function byItem(cells: Record<string, string[]>): Sets {
  const out = new Map<string, Set<string>>();
  for (const [target, list] of Object.entries(cells)) {
    for (const item of list) {
      const set = out.get(item) ?? new Set();
      out.set(item, set.add(target));
    }
  }
  return out;
}

/** By item, the targets that are in one and not in the other. */
function difference(a: Sets, b: Sets): Map<string, Set<string>> {
  const out = new Map<string, Set<string>>();
  for (const [x, y] of [
    [a, b],
    [b, a],
  ] as const) {
    for (const [item, targets] of x) {
      for (const t of targets) {
        if (!y.get(item)?.has(t)) out.set(item, (out.get(item) ?? new Set()).add(t));
      }
    }
  }
  return out;
}
