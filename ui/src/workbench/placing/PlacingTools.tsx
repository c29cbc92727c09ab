import { memo, useEffect, useRef, useState } from "react";
import { Switch } from "radix-ui";
import { plural, t } from "@lingui/core/macro";
import { engine, type Asking } from "../../engine/engine";
import { Popover } from "../../kit/Popover";
import { tip } from "../../kit/tip";
import { nameOf, targetOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { HowMany } from "./HowMany";
import { ask, numbered, setBlock, setCells, type Block } from "../model/key";

type Props = {
  solution: number;
  block: Block;
  letting: boolean;
  onLetting: (on: boolean) => void;
  byItem: boolean;
  onByItem: (on: boolean) => void;
  /** The number that was typed on the range; undefined while nobody asks. */
  asked?: string;
  onAsked: (typed: string | undefined) => void;
  /** Nobody asks any more: the focus goes back to the grid. */
  onAnswered?: () => void;
};

/** The cell in focus in words, and what can be done to the range. */
export const PlacingTools = memo(function PlacingTools({
  solution,
  block,
  letting,
  onLetting,
  byItem,
  onByItem,
  asked,
  onAsked,
  onAnswered,
}: Props) {
  const store = useDraftStore();
  const asking = useRef<Asking>(undefined);
  const { items, targets } = block;
  const pieces = useDraft((s) => s.doc.items.filter((i) => items.includes(i.id)).reduce((n, i) => n + i.copies, 0));
  const about = useDraft((s) => {
    const many = plural(pieces, { one: "# piece", other: "# pieces" });
    if (targets.length === 0) return t`of ${many}`;
    return targets.length === 1
      ? t`of ${many} in ${numbered(s.doc, targets[0]!)}`
      : t`of ${many} in each of ${targets.length} targets`;
  });
  /** Everything that is right nowhere is turned away; of a single cell or none selected, in the whole table. */
  const turnAway = () => {
    const { doc, known } = store.getState();
    const some = items.length * targets.length > 1;
    const right = known?.cells.right ?? [];
    setCells(
      store,
      -1,
      (some ? targets : doc.targets.map((target) => target.id)).flatMap((target) =>
        (some ? items : doc.items.map((i) => i.id))
          .filter((item) => !right.some((cells) => cells[target]?.includes(item)))
          .map((item) => ({ item, target, on: false })),
      ),
      t`reject what is not correct`,
    );
  };
  const tool =
    "underline decoration-dotted underline-offset-4 hover:decoration-solid disabled:text-slate disabled:no-underline";
  return (
    <div className="border-b border-line px-4 py-1.5">
      <BlockSaid solution={solution} block={block} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-feather">
        {!byItem && (
          <>
            <button
              type="button"
              className={tool}
              disabled={targets.length === 0 || items.length + block.tags.length === 0}
              {...tip(t`Space sets, Delete clears`)}
              onClick={() => setBlock(store, letting ? -1 : solution, block, true)}
            >
              {letting ? t`Accept` : t`Correct`}
            </button>
            <button
              type="button"
              className={tool}
              disabled={targets.length === 0 || items.length + block.tags.length === 0}
              onClick={() => setBlock(store, letting ? -1 : solution, block, false)}
            >
              {letting ? t`Reject` : t`Not correct`}
            </button>
          </>
        )}
        {letting && (
          <button
            type="button"
            className={tool}
            {...tip(t`Of what is selected, or of everything: each cell that is correct in no solution`)}
            onClick={turnAway}
          >
            {t`Reject what is not correct`}
          </button>
        )}
        <Popover
          label={t`How many is required`}
          open={asked !== undefined}
          onClosed={onAnswered}
          onOpen={(open) => onAsked(open ? "" : undefined)}
          onPressElsewhere={() => asking.current && ask(store, solution, items, targets, asking.current)}
          content={
            <HowMany
              about={about}
              pieces={pieces}
              typed={asked || undefined}
              now={asking}
              onDone={(asking) => {
                ask(store, solution, items, targets, asking);
                onAsked(undefined);
              }}
            />
          }
        >
          <button
            type="button"
            className={tool}
            disabled={letting || items.length === 0}
            {...tip(t`Or just type a number`)}
          >
            {t`Required number…`}
          </button>
        </Popover>
        <button
          type="button"
          className={tool}
          {...tip(t`Everything with a tag is correct in a target`)}
          onClick={() => store.setState({ asking: "tagPlaces" })}
        >
          {t`By tag…`}
        </button>
        <span className="ml-auto flex items-center gap-4 text-ink">
          <Toggle label={t`As list`} on={byItem} onChange={onByItem} />
          <Toggle label={t`Accepted items`} on={letting} onChange={onLetting} disabled={byItem} />
        </span>
      </div>
    </div>
  );
});

type ToggleProps = { label: string; on: boolean; onChange: (on: boolean) => void; disabled?: boolean };

function Toggle({ label, on, onChange, disabled }: ToggleProps) {
  return (
    <label className={`flex items-center gap-2 whitespace-nowrap ${disabled ? "opacity-50" : ""}`}>
      {label}
      <Switch.Root
        checked={on}
        disabled={disabled}
        onCheckedChange={onChange}
        className="h-5 w-9 rounded-full border border-edge bg-mist p-px data-[state=checked]:bg-feather"
      >
        <Switch.Thumb className="block size-4 rounded-full bg-slate transition-transform data-[state=checked]:translate-x-4 data-[state=checked]:bg-on-feather" />
      </Switch.Root>
    </label>
  );
}

const BlockSaid = memo(function BlockSaid({ solution, block }: { solution: number; block: Block }) {
  const said = useSaid(solution, block);
  return (
    <p className="line-clamp-2 min-h-[2.8em] text-slate" data-said {...tip(said)}>
      {said}
    </p>
  );
});

/** What the core says of the block: a cell, an item, a target, a tag; of a range, how large it is. */
function useSaid(solution: number, block: Block): string {
  const doc = useDraft((s) => s.doc);
  const remark = useDraft((s) => s.remark);
  const [said, setSaid] = useState("");
  const item = block.items.length === 1 ? block.items[0]! : "";
  const target = block.targets.length === 1 ? block.targets[0]! : "";
  const cells = block.items.length * block.targets.length;
  const alone = block.tags.length === 0 && cells <= 1 && block.items.length <= 1 && block.targets.length <= 1;
  useEffect(() => {
    if (!alone || (!item && !target)) return;
    let live = true;
    engine.tell(doc, solution, item, target).then(
      ({ message }) =>
        live &&
        setSaid(
          item && target
            ? t`${nameOf(doc.items.find((i) => i.id === item))} in ${numbered(doc, target)}: ${message}`
            : message,
        ),
      () => {}, // a draft with a fault says nothing
    );
    return () => {
      live = false;
    };
  }, [doc, solution, item, target, alone]);
  if (remark) return remark;
  if (alone && (item || target)) return said;
  if (block.tags.length === 1 && target) {
    const tag = block.tags[0]!;
    const by = doc.key.solutions[solution]?.right[target]?.tags.includes(tag);
    if (!tag) return t`Items without a tag.`;
    return by
      ? t`Everything tagged ${tag} in ${numbered(doc, target)}: correct, including items tagged later.`
      : t`Everything tagged ${tag} in ${numbered(doc, target)}: not set by tag. Press Space to set it.`;
  }
  if (block.items.length > 0 && block.targets.length === 0)
    return t`${plural(block.items.length, { one: "# item", other: "# items" })} selected.`;
  if (block.items.length + block.tags.length + block.targets.length === 0)
    return t`One row per item: the targets it belongs in.`;
  if (block.items.length === 0 && block.tags.length === 0)
    return t`${plural(block.targets.length, { one: "# target", other: "# targets" })} selected: edit their requirements and capacity below.`;
  const size = t`${cells} cells: ${plural(block.items.length, { one: "# item", other: "# items" })} × ${plural(block.targets.length, { one: "# target", other: "# targets" })}.`;
  const one = targetOf(doc, target);
  return one
    ? t`${size} Space sets, Delete clears; a number says how many of them ${nameOf(one)} needs.`
    : t`${size} Space sets, Delete clears; a number says how many of them each target needs.`;
}
