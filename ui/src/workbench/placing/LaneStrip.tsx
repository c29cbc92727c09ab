import { memo, useState } from "react";
import { t } from "@lingui/core/macro";
import type { Target } from "../../api/types";
import type { Order } from "../../engine/engine";
import { Select } from "../../kit/Select";
import { Button } from "../../kit/Button";
import { tip } from "../../kit/tip";
import { itemOf, nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { Chip, Gap, Lanes, Line } from "./lines";
import { numbered, setOrder } from "../model/key";

type Props = { solution: number };

/** The order of the lane that is selected, or of the only one: one line a place, items on one line in either order. */
export const LaneStrip = memo(function LaneStrip({ solution }: Props) {
  const lane = useDraft(({ doc, selection }) => {
    const lanes = doc.targets.filter((target) => target.ordered);
    return lanes.find((target) => selection.targets.includes(target.id)) ?? (lanes.length === 1 ? lanes[0] : undefined);
  });
  return lane ? <LaneOrder lane={lane} solution={solution} /> : null;
});

function LaneOrder({ lane, solution }: Props & { lane: Target }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const known = useDraft((s) => s.known);
  const name = (id: string) => nameOf(itemOf(doc, id));
  const order = doc.key.solutions[solution]?.orders.find((o) => o.target === lane.id);
  const right = known?.cells.right[solution]?.[lane.id] ?? [];
  const set = (next: Order | null, says: string) => setOrder(store, solution, lane.id, next, says);
  return (
    <section aria-label={t`Order of ${nameOf(lane)}`} className="flex max-h-[45%] flex-col border-t-2 border-line">
      <div className="flex flex-wrap items-center gap-x-3 border-b border-line bg-shade px-4 py-1">
        <h3 className="flex-1 font-semibold">{t`Order in ${numbered(doc, lane.id)}`}</h3>
        {order ? (
          <Button kind="quiet" onClick={() => void set(null, t`remove the order`)}>
            {t`Remove order`}
          </Button>
        ) : (
          <Button
            disabled={right.length === 0}
            onClick={() => void set({ target: lane.id, tiers: right.map((id) => [id]), before: [] }, t`set an order`)}
          >
            {t`Set an order`}
          </Button>
        )}
      </div>
      {!order && (
        <p className="px-4 py-2 text-slate">
          {right.length === 0
            ? t`First mark which items belong in this target.`
            : t`Pieces can be in any order. Set an order here or on the board.`}
        </p>
      )}
      {order && <Lines order={order} name={name} onSet={(next, says) => void set(next, says)} />}
    </section>
  );
}

type LinesProps = { order: Order; name: (item: string) => string; onSet: (order: Order, says: string) => void };

function Lines({ order, name, onSet }: LinesProps) {
  const { tiers, before } = order;
  const [focus, setFocus] = useState<string>();
  const items = [...new Set([...tiers.flat(), ...before.flat()])];
  const without = (id: string) => tiers.map((line) => line.filter((x) => x !== id));
  const put = (next: string[][]) =>
    onSet({ ...order, tiers: next.filter((line) => line.length > 0) }, t`change the order`);
  /** Onto a line with those that are there. */
  const onto = (id: string, line: number) => put(without(id).map((some, i) => (i === line ? [...some, id] : some)));
  /** On a line of its own before the given one. */
  const ahead = (id: string, line: number) => {
    const next = without(id);
    next.splice(line, 0, [id]);
    put(next);
  };
  const keys = (e: React.KeyboardEvent, id: string, line: number) => {
    const alone = tiers[line]!.length === 1;
    if (!e.altKey) return;
    setFocus(id);
    // Up and down by one line: between two lines from a shared one, onto the next from one of its own.
    if (e.key === "ArrowUp") {
      if (!alone) ahead(id, line);
      else if (line > 0) ahead(id, line - 1);
    } else if (e.key === "ArrowDown") {
      if (!alone) ahead(id, line + 1);
      else if (line < tiers.length - 1) ahead(id, line + 2);
    } else if (e.key === "ArrowLeft") {
      if (line > 0) onto(id, line - 1);
    } else if (e.key === "ArrowRight") {
      if (line < tiers.length - 1) onto(id, line + 1);
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div className="min-h-0 flex-1 overflow-auto px-4 py-2">
      <Lanes onDrop={(id, { onto: on, line }) => (on ? onto(id, line) : ahead(id, line))} name={name}>
        <ol>
          {tiers.map((tier, line) => [
            <Gap key={`gap ${line}`} line={line} />,
            <Line key={line} line={line}>
              {tier.map((id, i) => (
                <span key={id} className="flex items-center gap-2">
                  {i > 0 && <span className="text-slate">{t`or`}</span>}
                  <Chip
                    id={id}
                    label={t`${name(id)}, place ${line + 1}`}
                    focused={focus === id}
                    onBlur={() => setFocus(undefined)}
                    onKeyDown={(e) => keys(e, id, line)}
                  >
                    {name(id)}
                  </Chip>
                </span>
              ))}
            </Line>,
          ])}
          <Gap line={tiers.length} />
        </ol>
      </Lanes>
      <Pairs order={order} items={items} name={name} onSet={onSet} />
    </div>
  );
}

/** Further pairs: one must come before the other, wherever both stand. */
function Pairs({ order, items, name, onSet }: LinesProps & { items: string[] }) {
  const [first, setFirst] = useState("");
  const [then, setThen] = useState("");
  const choose = (label: string, value: string, onChange: (id: string) => void) => (
    <Select
      label={label}
      value={value}
      onPick={(to) => onChange(to)}
      className="h-7 max-w-36 rounded-(--radius) border border-line bg-paper px-1"
      options={[["", "…"], ...items.map((id) => [id, name(id)] as const)]}
    />
  );
  return (
    <div className="mt-2 flex flex-col gap-1">
      {order.before.map(([a, b], k) => (
        <p key={k} className="flex items-center gap-2">
          <span>{t`${name(a!)} must come before ${name(b!)}`}</span>
          <button
            type="button"
            className="text-feather underline"
            onClick={() => onSet({ ...order, before: order.before.filter((_, i) => i !== k) }, t`remove a pair`)}
          >
            {t`Remove`}
          </button>
        </p>
      ))}
      <p className="flex flex-wrap items-center gap-2 text-slate">
        {choose(t`The earlier one`, first, setFirst)} {t`must come before`} {choose(t`The later one`, then, setThen)}
        <Button
          disabled={!first || !then || first === then || order.before.some(([a, b]) => a === first && b === then)}
          onClick={() => onSet({ ...order, before: [...order.before, [first, then]] }, t`add a pair`)}
        >
          {t`Add`}
        </Button>
        <button
          type="button"
          className="text-feather underline"
          {...tip(t`Then only the pairs count`)}
          onClick={() =>
            onSet(
              order.tiers.length > 1
                ? { ...order, tiers: [order.tiers.flat()] }
                : { ...order, tiers: order.tiers.flat().map((id) => [id]) },
              order.tiers.length > 1 ? t`put all on one line` : t`give each a line`,
            )
          }
        >
          {order.tiers.length > 1 ? t`Remove order` : t`One step each`}
        </button>
      </p>
    </div>
  );
}
