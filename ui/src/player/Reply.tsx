import { useEffect, useRef } from "react";
import { Dialog } from "radix-ui";
import { Volume2, X } from "lucide-react";
import type { Act, Scene, Standing, Told } from "../api/types";
import { Button } from "../kit/Button";
import { useOpener } from "../kit/opener";
import { tip } from "../kit/tip";
import { plainText, RichText } from "../board/RichText";
import { toneBox, ToneMark } from "../board/ToneMark";
import { useSound } from "./Sound";
import { keyOf } from "./told";
import { directionOf, useWords, type WordID } from "../words/words";

type Props = {
  told: Told;
  scene: Pick<Scene, "restart" | "lang">;
  standing: Pick<Standing, "phase">;
  mediaURL: (id: string) => string;
  act: (act: Act) => void;
  onClose: (key: string) => void;
  /** Leads along a series; without it such offers are not made. */
  onGo?: (to: string) => void;
  /** A dialog stands around it, which has the name and the focus. */
  inCard?: boolean;
  /** It is only looked at: it says nothing aloud and takes no focus. */
  still?: boolean;
};

const layouts = { above: "flex-col", beside: "items-start", below: "flex-col-reverse" };

const toneWords: Record<string, WordID> = { right: "isRight", near: "isNear", wrong: "isWrong" };

/** One reply, where it stands. */
export function Reply({ told, scene, standing, mediaURL, act, onClose, onGo, inCard, still }: Props) {
  const w = useWords();
  const hear = useSound(mediaURL);
  const close = useRef<HTMLButtonElement>(null);
  const key = keyOf(told);
  const card = told.spot === "card";
  const full = told.spot === "board" && !inCard;
  const word = toneWords[told.tone];
  const tone = word && w(word);
  useEffect(() => {
    if (told.sound && !still) hear(told.sound);
  }, [told.sound, hear, key, still]);
  useEffect(() => {
    if (!(card || full) || inCard || still) return;
    // What hides the board takes the focus, and gives it back; not from whoever works elsewhere, beside a rehearsal.
    const before = document.activeElement as HTMLElement | null;
    const elsewhere = before?.closest("[data-zone]");
    if (elsewhere && !elsewhere.contains(close.current)) return;
    close.current?.focus();
    return () => before?.focus();
  }, [card, full, inCard, still, key]);
  const offers = told.offer.filter((o) =>
    o === "again" ? standing.phase === "paused" : o === "restart" ? scene.restart : onGo !== undefined,
  );
  const closable = card || told.until === "closed" || told.over || told.until === "stays";
  return (
    <div
      data-reply={told.tone}
      role={inCard ? undefined : card ? "dialog" : "note"}
      aria-label={card && !inCard ? tone || plainText(told.rich) : undefined}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        if (e.key !== "Escape" || !closable) return;
        e.stopPropagation();
        onClose(key);
      }}
      className={`pointer-events-auto z-[3000] rounded-(--radius) border px-3 py-2 text-ink shadow-(--shadow-raised) ${toneBox[told.tone]} ${card ? "relative m-auto max-h-full w-[min(26rem,92%)] overflow-auto p-4 pr-10" : full ? "size-full overflow-auto" : "w-max max-w-full"} ${closable && !card ? "pr-9" : ""}`}
    >
      <div className={`flex gap-2.5 ${full ? "size-full" : ""}`}>
        <ToneMark tone={told.tone} label={tone} className="mt-0.5" />
        <div className="min-w-0 flex-1">
          <div className={`flex min-h-0 gap-2 ${layouts[told.layout]} ${full ? "size-full" : ""}`}>
            {told.picture && (
              <img
                src={mediaURL(told.picture)}
                alt={told.alt}
                className={`rounded-sm bg-picture object-contain ${full ? "min-h-0 flex-1" : told.layout === "beside" ? "max-h-52 max-w-[50%]" : card ? "max-h-52 w-full" : "max-h-32 self-start"}`}
              />
            )}
            <div>
              <RichText nodes={told.rich} />
            </div>
          </div>
          {told.dim && told.points && <p className="mt-1 text-slate">{w("dimmed")}</p>}
          {told.sound && (
            <button
              type="button"
              onClick={() => hear(told.sound)}
              {...tip(told.transcript)}
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

/** A card before everything else: it has the focus until it is closed, and gives it back. */
export function Card(p: Props) {
  const w = useWords();
  const word = toneWords[p.told.tone];
  const opener = useOpener();
  return (
    <Dialog.Root open onOpenChange={(open) => !open && p.onClose(keyOf(p.told))}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-veil" />
        <Dialog.Content
          {...opener}
          aria-describedby={undefined}
          lang={p.scene.lang}
          dir={directionOf(p.scene.lang)}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[92dvh] w-[min(26rem,94vw)] -translate-x-1/2 -translate-y-1/2"
        >
          <Dialog.Title className="sr-only">{word ? w(word) : plainText(p.told.rich).slice(0, 80)}</Dialog.Title>
          <div data-body className="flex min-h-0 w-full">
            <Reply {...p} inCard />
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
