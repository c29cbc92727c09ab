import { useState } from "react";
import { X } from "lucide-react";
import { t } from "@lingui/core/macro";
import type { Need } from "../../engine/engine";
import { Select } from "../../kit/Select";
import { Button } from "../../kit/Button";
import { TypedInput } from "../../kit/TypedInput";
import { itemOf, nameOf } from "../../document/parts";
import { useDraft } from "../model/draft";

type Props = { title: string; needs: Need[]; onDone: (needs: Need[]) => void };

const all = { all: true, items: [], tags: [], except: [] };

/** The needs of a target: how many, of which items. */
export function NeedsFields({ title, needs, onDone }: Props) {
  const doc = useDraft((s) => s.doc);
  const [list, setList] = useState(needs);
  const put = (next: Need[]) => {
    setList(next);
    onDone(next);
  };
  const change = (k: number, part: Partial<Need>) => put(list.map((n, i) => (i === k ? strip({ ...n, ...part }) : n)));
  const tags = [...new Set(doc.items.flatMap((i) => i.tags))];
  return (
    <div className="flex w-96 flex-col gap-2">
      <p className="font-medium text-ink">{title}</p>
      {list.length === 0 && (
        <p className="text-slate">
          {t`No limit set: every correct piece is required. To require fewer, select cells in this column and type a number.`}
        </p>
      )}
      {list.map((n, k) => (
        <div key={k} className="flex items-center gap-1.5">
          <Number label={t`at least`} value={n.min} onDone={(min) => change(k, { min: min ?? 0 })} />
          <span>{t`to`}</span>
          <Number label={t`at most`} value={n.max} empty={t`any`} onDone={(max) => change(k, { max })} />
          <span>{t`of`}</span>
          <Select
            label={t`Of which items`}
            value={valueOf(n)}
            onPick={(to) => change(k, { of: selectorOf(to, n) })}
            className="h-7 min-w-0 flex-1 rounded-(--radius) border border-line bg-paper px-1"
            options={[
              ["all", t`all correct items`],
              n.of.items.length > 0 && ["items", n.of.items.map((id) => nameOf(itemOf(doc, id))).join(", ")],
              ...tags.map((tag) => [`tag ${tag}`, t`everything tagged ${tag}`] as const),
            ]}
          />
          <button
            type="button"
            aria-label={t`Remove requirement`}
            onClick={() => put(list.filter((_, i) => i !== k))}
            className="grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-shade"
          >
            <X size={14} />
          </button>
        </div>
      ))}
      <Button
        className="self-start"
        onClick={() => put([...list, { target: "", min: 1, max: 1, of: all }])}
        disabled={list.some((n) => n.of.all)}
      >
        {t`Add a requirement`}
      </Button>
    </div>
  );
}

/** Without a number that is undefined. */
function strip(n: Need): Need {
  if (n.max !== undefined) return n.max < n.min ? { ...n, max: n.min } : n;
  const rest = { ...n };
  delete rest.max;
  return rest;
}

const valueOf = (n: Need) =>
  n.of.all ? "all" : n.of.tags.length === 1 && n.of.items.length === 0 ? `tag ${n.of.tags[0]}` : "items";

function selectorOf(value: string, n: Need): Need["of"] {
  if (value === "all") return all;
  if (value === "items") return n.of;
  return { all: false, items: [], tags: [value.slice(4)], except: [] };
}

type NumberProps = { label: string; value?: number; empty?: string; onDone: (n: number | undefined) => void };

function Number({ label, value, empty, onDone }: NumberProps) {
  const [low, high] = [0, 99_999];
  const rule = t`${low} to ${high}`;
  return (
    <TypedInput
      label={label}
      inputMode="numeric"
      value={String(value ?? "")}
      placeholder={empty}
      rule={t`whole numbers, ${rule}`}
      onFocus={(e) => e.target.select()}
      onDone={(typed) => {
        const text = typed.trim();
        if (text === "" && empty) onDone(undefined);
        else if (/^\d{1,5}$/.test(text)) onDone(parseInt(text, 10));
        else return false;
      }}
      className="w-12 tabular-nums"
    />
  );
}
