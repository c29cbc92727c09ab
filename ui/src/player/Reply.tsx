import { useEffect, useRef, type CSSProperties } from "react";
import { Volume2, X } from "lucide-react";
import type { Act, Rect, Scene, Standing, Told } from "../api/types";
import { Button } from "../shared/Button";
import { plainText, RichText } from "../shared/RichText";
import { placed } from "../shared/TargetWell";
import { toneBox, ToneMark } from "../shared/ToneMark";
import { useSound } from "./Sound";
import { freeEdge, keyOf } from "./told";
import { useWords, type WordID } from "./words";

type Props = {
  told: Told;
  scene: Scene;
  standing: Standing;
  /** Where it stands over the board; without it, where the one around it puts it. */
  at?: CSSProperties;
  mediaURL: (id: string) => string;
  act: (act: Act) => void;
  onClose: (key: string) => void;
  /** Leads along a series; without it such offers are not made. */
  onGo?: (to: string) => void;
};

const toneWords: Record<string, WordID> = { right: "isRight", near: "isNear", wrong: "isWrong" };

/** One reply, where it stands. */
export function Reply({ told, scene, standing, at, mediaURL, act, onClose, onGo }: Props) {
  const w = useWords();
  const hear = useSound(mediaURL);
  const close = useRef<HTMLButtonElement>(null);
  const key = keyOf(told);
  const card = told.spot === "card";
  const word = toneWords[told.tone];
  const tone = word && w(word);
  useEffect(() => {
    if (told.sound) hear(told.sound);
  }, [told.sound, hear, key]);
  useEffect(() => {
    if (!card) return;
    // A card takes the focus, and gives it back.
    const before = document.activeElement as HTMLElement | null;
    close.current?.focus();
    return () => before?.focus();
  }, [card, key]);
  const offers = told.offer.filter((o) =>
    o === "again" ? standing.phase === "paused" : o === "restart" ? scene.restart : onGo !== undefined,
  );
  const closable = card || told.until === "closed" || told.over || told.until === "stays";
  return (
    <div
      data-reply={told.tone}
      role={card ? "dialog" : "note"}
      aria-label={card ? tone || plainText(told.rich) : undefined}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        if (e.key !== "Escape" || !closable) return;
        e.stopPropagation();
        onClose(key);
      }}
      className={`pointer-events-auto z-[3000] rounded-(--radius) border px-3 py-2 text-ink shadow-(--shadow-raised) ${toneBox[told.tone]} ${card ? "relative m-auto max-h-full w-[min(26rem,92%)] overflow-auto p-4 pr-10" : `w-max max-w-[min(22rem,94%)] ${at ? "absolute" : "max-w-full"}`} ${closable && !card ? "pr-9" : ""}`}
      style={at}
    >
      <div className="flex gap-2.5">
        <ToneMark tone={told.tone} label={tone} className="mt-0.5" />
        <div className="min-w-0 flex-1">
          {told.picture && (
            <img
              src={mediaURL(told.picture)}
              alt={told.alt}
              className={`mb-2 rounded-sm bg-picture object-contain ${card ? "max-h-52 w-full" : "max-h-32"}`}
            />
          )}
          <RichText nodes={told.rich} />
          {told.sound && (
            <button
              type="button"
              onClick={() => hear(told.sound)}
              title={told.transcript}
              className="mt-1 inline-flex items-center gap-1.5 underline underline-offset-4"
            >
              <Volume2 size={15} aria-hidden /> {w("hearReply")}
            </button>
          )}
          {offers.length > 0 && (
            <div className="mt-2 flex flex-wrap gap-2">
              {offers.map((o) => (
                <Button
                  key={o}
                  onClick={() => (o === "again" || o === "restart" ? act({ do: o }) : onGo?.(o))}
                  kind={o === "again" || o === "next" ? "main" : "plain"}
                >
                  {w(o.startsWith("page:") ? "page" : (o as "again"))}
                </Button>
              ))}
            </div>
          )}
        </div>
      </div>
      {closable && (
        <button
          ref={close}
          type="button"
          aria-label={w("close")}
          onClick={() => onClose(key)}
          className="absolute top-1 right-1 grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-shade"
        >
          <X size={16} aria-hidden />
        </button>
      )}
    </div>
  );
}

/** Where a reply stands that has a place of its own: in its frame, or beside its piece or target. */
export function ownPlace(t: Told, scene: Scene, standing: Standing): CSSProperties | undefined {
  if (t.spot === "frame" && t.frame) {
    const { left, top, width, height } = placed(t.frame);
    return { left, top, width, minHeight: height, maxWidth: "none" };
  }
  const target = t.spot === "target" && scene.targets.find((x) => x.id === t.target)?.frame;
  const piece = t.spot === "piece" && t.piece ? standing.stands[t.piece] : undefined;
  const at: Rect | undefined = target || piece || undefined;
  if (!at) return undefined;
  const left = `clamp(0px, calc(${at.x}px * var(--s)), calc(100% - 14rem))`;
  return at.y + at.h / 2 < scene.height / 2
    ? { left, top: `calc(${at.y + at.h}px * var(--s) + 6px)` }
    : { left, bottom: `calc(${scene.height - at.y}px * var(--s) + 6px)` };
}

/** Where at the board's edge several stand, one under the other: where they cover least. */
export function edgePlace(list: Told[], scene: Scene, standing: Standing, scale: number): CSSProperties {
  const height = list.reduce((sum, t) => sum + (t.picture ? 190 : 64), 0);
  const edge = freeEdge(list, scene, standing, Math.min(352 / scale, scene.width * 0.94), height / scale);
  const left = { left: `calc(${Math.max(0, edge.x)}px * var(--s))` };
  return edge.y > scene.height / 2 - height / scale / 2 ? { ...left, bottom: 8 } : { ...left, top: 8 };
}
