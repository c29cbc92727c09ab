import { memo, useCallback, useMemo } from "react";
import { t } from "@lingui/core/macro";
import type { RichNode } from "../../api/types";
import { itemOfPiece } from "../../document/parts";
import { useDraft } from "../model/draft";
import { readingOrder } from "../model/frames";
import { ItemView, SceneryView, TargetView } from "./PartViews";

// Each list is drawn when a part comes, goes or changes; which parts are selected or
// pointed at, each looks for itself.

const noText: RichNode[] = [];

/** The place of each part in the reading order, while that is shown. */
function useOrder(): (kind: string, id: string) => number | undefined {
  const doc = useDraft((s) => (s.showOrder ? s.doc : undefined));
  const places = useMemo(() => doc && new Map(readingOrder(doc).map((p, i) => [`${p.kind} ${p.id}`, i + 1])), [doc]);
  return (kind, id) => places?.get(`${kind} ${id}`);
}

export const SceneryOnBoard = memo(function SceneryOnBoard() {
  const scenery = useDraft((s) => s.doc.scenery);
  const targets = useDraft((s) => s.doc.targets);
  const board = useDraft((s) => s.doc.board);
  const rich = useDraft((s) => s.known?.rich);
  const order = useOrder();
  const gaps = useMemo(() => new Map(targets.map((target) => [target.id, target.frame])), [targets]);
  const gap = useCallback((id: string) => gaps.get(id), [gaps]);
  return scenery.map(
    (s) =>
      !s.hidden && (
        <SceneryView
          key={s.id}
          scenery={s}
          rich={rich?.[s.id] ?? noText}
          board={board}
          gap={gap}
          order={order("scenery", s.id)}
        />
      ),
  );
});

export const TargetsOnBoard = memo(function TargetsOnBoard() {
  const targets = useDraft((s) => s.doc.targets);
  const order = useOrder();
  return targets.map(
    (target, i) =>
      !target.hidden && (
        <TargetView key={target.id} target={target} number={i + 1} order={order("target", target.id)} />
      ),
  );
});

/** The items that stand on the board, or those that wait in the tray. */
function Items({ tray }: { tray: boolean }) {
  const items = useDraft((s) => s.doc.items);
  const stands = useDraft((s) => s.way?.stands);
  const order = useOrder();
  // Where an arrangement is shown, its pieces stand for the items.
  const shown = useMemo(() => stands && new Set(Object.keys(stands).map(itemOfPiece)), [stands]);
  return items.map(
    (i) =>
      !i.hidden &&
      !i.home === tray && (
        <ItemView key={i.id} item={i} tray={tray} dimmed={!!shown?.has(i.id)} order={order("item", i.id)} />
      ),
  );
}

export const ItemsOnBoard = memo(function ItemsOnBoard() {
  return <Items tray={false} />;
});

export const ItemsInTray = memo(function ItemsInTray() {
  const none = useDraft((s) => s.doc.items.length === 0);
  const empty = useDraft((s) => s.doc.items.every((i) => i.home));
  return (
    <>
      <Items tray />
      {empty && (
        <span className="text-slate">
          {none
            ? t`No pieces yet. Drop pictures here, or add items in the Content tab.`
            : t`All pieces start on the board.`}
        </span>
      )}
    </>
  );
});
