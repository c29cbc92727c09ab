import { memo, useLayoutEffect, useMemo, useRef, useState } from "react";
import { t } from "@lingui/core/macro";
import type { Doc, Rect, Reply as DocReply, Told } from "../../api/types";
import { besides } from "../../board/besides";
import { Reply } from "../../player/Reply";
import { wordsFor, WordsProvider } from "../../words/words";
import { fit } from "../../board/fit";
import { mediaURL } from "../../board/mediaURL";
import { useWorkspaceWords } from "../../words/useWorkspaceWords";
import { useDraft, useDraftStore } from "../model/draft";
import { change, replyOf, untilOf } from "../model/replies";
import { Movable } from "../board/Movable";

/** The reply that is looked at, as the player draws it, where it will stand; moved, it stands where it is put. */
export const ReplyOnBoard = memo(function ReplyOnBoard() {
  const reply = useDraft((s) => (s.lens === "replies" && !s.situation ? replyOf(s.doc, s.reply) : undefined));
  return reply ? <Drawn key={reply.id} reply={reply} /> : null;
});

/** What a learner has in a window of 1280 by 800 for board and tray. */
const usual = { width: 1248, height: 640 };
const nothing = () => {};

function Drawn({ reply }: { reply: DocReply }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const rich = useDraft((s) => s.known?.says[reply.id]);
  const words = useWorkspaceWords(doc.lang);
  const w = useMemo(() => wordsFor(doc.lang, { ...words, ...doc.words }), [doc.lang, doc.words, words]);
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ w: 0, h: 0 });
  useLayoutEffect(() => {
    const e = box.current;
    if (!e) return;
    const measure = () => setSize({ w: e.offsetWidth, h: e.offsetHeight });
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(e);
    return () => watch.disconnect();
  }, []);
  // As large beside the board as it is for a learner: there its text does not shrink with the board.
  const inPlayer = useMemo(
    () =>
      fit(usual, {
        width: doc.board.width,
        height: doc.board.height,
        pieces: doc.items.filter((i) => !i.home).map((i) => i.size),
        besideAllowed: true,
      }).scale,
    [doc.board, doc.items],
  );
  const wide = reply.frame && reply.spot === "frame" ? Math.max(reply.frame.w * inPlayer, 224) : undefined;
  // What is set counts before it is drawn and measured: two quick keys each change it.
  const whole = reply.spot === "board";
  const units = whole
    ? { w: doc.board.width, h: doc.board.height }
    : { w: (wide ?? size.w) / inPlayer, h: size.h / inPlayer };
  const told: Told = {
    n: 0,
    number: 0,
    tone: reply.tone,
    rich: rich ?? [],
    picture: reply.say.picture ?? "",
    alt: "",
    sound: reply.say.sound ?? "",
    transcript: "",
    spot: reply.spot,
    until: untilOf(reply),
    dim: false,
    reopen: reply.reopen,
    offer: reply.offer,
    showKey: reply.showKey,
    over: false,
    layout: reply.say.layout ?? "above",
  };
  return (
    <WordsProvider value={w}>
      <Movable
        frame={{ ...placeOf(doc, reply, units), ...units }}
        name={t`The reply on the board`}
        onDone={(to) =>
          change(
            store,
            reply.id,
            t`place a reply`,
            (r) => {
              r.spot = "frame";
              r.frame = to;
            },
            "place-reply",
          )
        }
      >
        <div
          ref={box}
          inert
          data-reply-shown
          lang={doc.lang}
          className={`w-max origin-top-left text-sm ${wide || whole ? "" : "max-w-88"}`}
          style={{
            width: whole ? units.w * inPlayer : wide,
            height: whole ? units.h * inPlayer : undefined,
            transform: `scale(calc(var(--s) / ${inPlayer}))`,
          }}
        >
          <Reply
            told={told}
            scene={{ restart: true, lang: doc.lang }}
            standing={{ phase: "paused" }}
            mediaURL={mediaURL}
            act={nothing}
            onClose={nothing}
            onGo={nothing}
            still
          />
          {!reply.say.text && <p className="px-3 text-slate italic">{t`Feedback text appears here.`}</p>}
        </div>
      </Movable>
    </WordsProvider>
  );
}

/** Where it will stand, by the player's own placement. All in board units. */
function placeOf(doc: Doc, reply: DocReply, size: { w: number; h: number }): { x: number; y: number } {
  const { width, height } = doc.board;
  if (reply.spot === "board") return { x: 0, y: 0 };
  if (reply.spot === "card") return { x: (width - size.w) / 2, y: (height - size.h) / 2 };
  if (reply.spot === "frame" && reply.frame) return reply.frame;
  const about = subjectOf(doc, reply);
  const avoid = [
    ...doc.targets.map((target) => ({ box: target.frame, weight: target.id === about?.id ? 400 : 1 })),
    ...doc.targets
      .filter((target) => target.label.text)
      .map((target) => ({ box: { ...target.frame, y: target.frame.y - 14, h: 28 }, weight: 100 })),
    ...doc.items.flatMap((i) => (i.home ? [{ box: { ...i.home, ...i.size }, weight: 8 }] : [])),
  ];
  const beside = reply.spot === "piece" || reply.spot === "target";
  return besides(size, { x: 4, y: 4, w: width - 8, h: height - 8 }, beside && about ? [about.frame] : [], avoid);
}

/** What it is about, as far as its situation names a target. */
function subjectOf(doc: Doc, reply: DocReply): { id: string; frame: Rect } | undefined {
  const text = JSON.stringify(reply.when ?? {});
  return doc.targets.find((target) => text.includes(`"${target.id}"`)) ?? doc.targets[0];
}
