import { useRef, useState } from "react";
import { Plus, X } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Doc } from "../api/types";
import { Button } from "./Button";
import { TypedInput } from "./TypedInput";

export type Band = Doc["marks"]["bands"][number];

type Props = {
  bands: Band[];
  passMark: number;
  negative?: boolean;
  /** Changes the bands; what has the same merge is one step of undo. */
  onBands: (says: string, apply: (list: Band[]) => void, merge?: string) => void;
  onPass: (passMark: number) => void;
};

/** The scale of percents with the pass mark and the bands; each line can be dragged, or moved by key. */
export function BandsBar({ bands, passMark, negative, onBands: set, onPass: pass }: Props) {
  const bar = useRef<HTMLDivElement>(null);
  const [moving, setMoving] = useState<{ what: "pass" | number; at: number }>();
  const low = negative ? -100 : 0;
  const place = (n: number) => `${(100 * (n - low)) / (100 - low)}%`;
  const sorted = bands.map((b, i) => ({ ...b, i })).sort((a, b) => a.from - b.from);
  const move = (what: "pass" | number, n: number) => {
    const to = Math.max(low, Math.min(100, n));
    if (what === "pass") pass(to);
    else set(t`move a band`, (list) => (list[what]!.from = to), `band ${what}`);
  };
  const at = (what: "pass" | number, n: number) => (moving?.what === what ? moving.at : n);
  const under = (e: React.PointerEvent) => {
    const r = bar.current!.getBoundingClientRect();
    return Math.max(low, Math.min(100, Math.round(low + ((e.clientX - r.left) / r.width) * (100 - low))));
  };
  const handle = (what: "pass" | number, n: number, name: string) => ({
    role: "slider",
    tabIndex: 0,
    "aria-label": name,
    "aria-valuemin": low,
    "aria-valuemax": 100,
    "aria-valuenow": at(what, n),
    onPointerDown: (e: React.PointerEvent<HTMLElement>) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      setMoving({ what, at: n });
    },
    onPointerMove: (e: React.PointerEvent) => moving?.what === what && setMoving({ what, at: under(e) }),
    onPointerUp: () => {
      if (moving && moving.at !== n) move(what, moving.at);
      setMoving(undefined);
    },
    onPointerCancel: () => setMoving(undefined),
    onKeyDown: (e: React.KeyboardEvent) => {
      const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[e.key];
      if (!by) return;
      e.preventDefault();
      move(what, n + by);
    },
  });
  const add = () => {
    // Where there is most room.
    const lines = [low, ...sorted.map((b) => b.from), 100];
    let from = sorted.length === 0 ? low : Math.round((low + 100) / 2);
    let most = 0;
    lines.forEach((n, i) => {
      const room = (lines[i + 1] ?? n) - n;
      if (sorted.length > 0 && room > most) {
        most = room;
        from = Math.round(n + room / 2);
      }
    });
    set(t`add a band`, (list) => void list.push({ from, name: t`Band ${list.length + 1}` }));
  };
  return (
    <div className="border-b border-line px-4 pt-2 pb-1.5" role="group" aria-label={t`Bands`}>
      <div ref={bar} className="relative h-7 touch-none rounded-sm border border-edge bg-shade select-none">
        {sorted.map((b, k) => {
          const from = at(b.i, b.from);
          const to = sorted[k + 1] ? at(sorted[k + 1]!.i, sorted[k + 1]!.from) : 100;
          return (
            <span
              key={b.i}
              className={`absolute inset-y-0 overflow-hidden text-center text-[13px] leading-6.5 whitespace-nowrap ${k % 2 ? "bg-feather-soft" : "bg-mist"}`}
              style={{ left: place(from), width: `calc(${place(Math.max(from, to))} - ${place(from)})` }}
            >
              {b.name}
            </span>
          );
        })}
        {sorted.map((b) => (
          <span
            key={b.i}
            {...handle(b.i, b.from, t`${b.name || t`Band`} begins at ${at(b.i, b.from)}%`)}
            className="absolute -inset-y-0.5 w-3 -translate-x-1/2 cursor-ew-resize outline-offset-1"
            style={{ left: place(at(b.i, b.from)) }}
          >
            <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-slate" />
          </span>
        ))}
        <span
          {...handle("pass", passMark, t`Pass mark ${at("pass", passMark)}%`)}
          className="absolute -top-1.5 -bottom-1.5 z-10 w-4 -translate-x-1/2 cursor-ew-resize"
          style={{ left: place(at("pass", passMark)) }}
        >
          <span className="absolute inset-y-0 left-1/2 w-1 -translate-x-1/2 rounded-sm bg-teal" />
        </span>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 leading-7">
        <span className="text-teal">
          <Trans>
            pass mark <b className="tabular-nums">{at("pass", passMark)}</b>%
          </Trans>
        </span>
        {sorted.map((b) => (
          <span key={b.i} className="flex items-center gap-1">
            <span className="text-slate tabular-nums">{at(b.i, b.from)}%</span>
            <TypedInput
              label={t`Name of the band from ${b.from}%`}
              value={b.name}
              maxLength={200}
              onDone={(name) => set(t`name a band`, (list) => (list[b.i]!.name = name))}
              className="w-32"
            />
            <button
              type="button"
              aria-label={t`Delete band ${b.name}`}
              onClick={() => set(t`remove a band`, (list) => void list.splice(b.i, 1))}
              className="grid size-6 place-items-center rounded-(--radius) text-slate hover:bg-mist"
            >
              <X size={14} aria-hidden />
            </button>
          </span>
        ))}
        <Button className="h-7 px-2" onClick={add} disabled={bands.length >= 50}>
          <Plus size={14} aria-hidden /> {t`Band`}
        </Button>
      </div>
    </div>
  );
}
