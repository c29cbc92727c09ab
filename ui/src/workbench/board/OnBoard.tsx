import { useRef, useState, type PointerEvent } from "react";
import type { Doc, Rect, Reply } from "../../api/types";
import { placed } from "../../shared/TargetWell";
import { toneBox, ToneMark } from "../../shared/ToneMark";
import { Button } from "../../shared/Button";
import { useDraft, useDraftStore } from "../draft";
import { change, replyOf } from "../replies/changes";
import { checkWord, wordsFor } from "../../player/words";
import { useWorkspaceWords } from "../../shared/useWorkspaceWords";

type MovableProps = {
  frame: Rect;
  name: string;
  onDone: (frame: Rect) => void;
  children: React.ReactNode;
};

const least = 24;

/** Something that stands over the parts of the board, and is moved and sized there: by pointer, or with arrows. */
function Movable({ frame, name, onDone, children }: MovableProps) {
  const { width, height } = useDraft((s) => s.doc.board);
  const [live, setLive] = useState<Rect>();
  const grip = useRef<{ x: number; y: number; from: Rect; size: boolean; scale: number }>(undefined);
  const bounded = (r: Rect): Rect => {
    const w = Math.round(Math.min(Math.max(least, r.w), width));
    const h = Math.round(Math.min(Math.max(least, r.h), height));
    return {
      x: Math.round(Math.min(Math.max(0, r.x), width - w)),
      y: Math.round(Math.min(Math.max(0, r.y), height - h)),
      w,
      h,
    };
  };
  const down = (size: boolean) => (e: PointerEvent<HTMLElement>) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    const board = e.currentTarget.closest("[data-ground]")!;
    grip.current = {
      x: e.clientX,
      y: e.clientY,
      from: frame,
      size,
      scale: board.getBoundingClientRect().width / width,
    };
  };
  const move = (e: PointerEvent) => {
    const g = grip.current;
    if (!g) return;
    e.stopPropagation();
    const dx = (e.clientX - g.x) / g.scale;
    const dy = (e.clientY - g.y) / g.scale;
    setLive(
      bounded(
        g.size ? { ...g.from, w: g.from.w + dx, h: g.from.h + dy } : { ...g.from, x: g.from.x + dx, y: g.from.y + dy },
      ),
    );
  };
  const up = (e: PointerEvent) => {
    e.stopPropagation();
    grip.current = undefined;
    if (live) onDone(live);
    setLive(undefined);
  };
  const keys = (e: React.KeyboardEvent) => {
    const step = e.shiftKey ? 10 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key];
    if (!by) return;
    e.preventDefault();
    e.stopPropagation();
    onDone(
      bounded(
        e.altKey
          ? { ...frame, w: frame.w + by[0]!, h: frame.h + by[1]! }
          : { ...frame, x: frame.x + by[0]!, y: frame.y + by[1]! },
      ),
    );
  };
  const handlers = (size: boolean) => ({ onPointerDown: down(size), onPointerMove: move, onPointerUp: up });
  return (
    <div
      tabIndex={0}
      role="group"
      aria-label={`${name}: arrows move it, with Alt they size it`}
      data-editor
      onKeyDown={keys}
      {...handlers(false)}
      className="cursor-move touch-none outline-1 outline-offset-2 outline-feather outline-dashed focus-visible:outline-2"
      style={{ ...placed(live ?? frame), zIndex: 1700 }}
    >
      {children}
      <span
        {...handlers(true)}
        className="absolute -right-1.5 -bottom-1.5 size-3.5 cursor-nwse-resize border border-feather bg-paper"
        aria-hidden
      />
    </div>
  );
}

/** The reply that is looked at, where it will stand; moved, it stands where it is put. */
export function ReplyOnBoard() {
  const store = useDraftStore();
  const lens = useDraft((s) => s.lens);
  const reply = useDraft((s) => (s.situation ? undefined : replyOf(s.doc, s.reply)));
  const { width, height } = useDraft((s) => s.doc.board);
  const doc = useDraft((s) => s.doc);
  if (lens !== "replies" || !reply) return null;
  const w = Math.min(360, width - 16);
  const beside = besideOf(doc, reply);
  const frame =
    reply.frame ??
    (reply.spot === "card"
      ? { x: width / 2 - 210, y: height / 2 - 110, w: 420, h: 220 }
      : beside
        ? {
            x: Math.min(Math.max(0, beside.x), width - w),
            y: beside.y + beside.h + 86 < height ? beside.y + beside.h + 6 : beside.y - 86,
            w,
            h: 80,
          }
        : { x: (width - w) / 2, y: height - 96, w, h: 80 });
  return (
    <Movable
      frame={frame}
      name="The reply on the board"
      onDone={(to) =>
        change(
          store,
          reply.id,
          "place a reply",
          (r) => {
            r.spot = "frame";
            r.frame = to;
          },
          "place reply",
        )
      }
    >
      <div
        data-reply-shown
        className={`flex size-full gap-2 overflow-hidden rounded-(--radius) border px-2 py-1 text-ink shadow-(--shadow-raised) ${toneBox[reply.tone]}`}
        style={{ fontSize: "max(10px, calc(17px * var(--s)))", lineHeight: 1.35 }}
      >
        <ToneMark tone={reply.tone} className="mt-0.5" />
        <span>{reply.say.text || <i className="text-slate">What is said stands here.</i>}</span>
      </div>
    </Movable>
  );
}

/** The part that a reply beside a piece or a target is about, as far as its situation names one. */
function besideOf(doc: Doc, reply: Reply): Rect | undefined {
  if (reply.spot !== "piece" && reply.spot !== "target") return undefined;
  const text = JSON.stringify(reply.when ?? {});
  const target = doc.targets.find((t) => text.includes(`"${t.id}"`)) ?? doc.targets[0];
  return target?.frame;
}

/** The button for checking, where it stands on the board. */
export function CheckOnBoard() {
  const store = useDraftStore();
  const { check } = useDraft((s) => s.doc.board);
  const lang = useDraft((s) => s.doc.lang);
  const words = useDraft((s) => s.doc.words);
  const kind = useDraft((s) => s.doc.play.check);
  const { words: shared } = useWorkspaceWords(lang);
  if (!check) return null;
  return (
    <Movable
      frame={check}
      name="The button for checking"
      onDone={(to) =>
        store.getState().change({ says: "move Check", merge: "move check", apply: (d) => void (d.board.check = to) })
      }
    >
      <Button kind="main" tabIndex={-1} className="pointer-events-none size-full! px-1 leading-tight whitespace-normal">
        {wordsFor(lang, { ...shared, ...words })(checkWord(kind))}
      </Button>
    </Movable>
  );
}
