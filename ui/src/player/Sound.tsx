import { useCallback, useEffect, useRef } from "react";
import { Volume2 } from "lucide-react";
import { tip } from "../kit/tip";
import { useWords } from "../words/words";

/** Plays one sound at a time, until what it belongs to is gone. */
export function useSound(mediaURL: (id: string) => string): (id: string) => void {
  const playing = useRef<HTMLAudioElement | null>(null);
  useEffect(() => () => playing.current?.pause(), []);
  return useCallback(
    (id: string) => {
      playing.current?.pause();
      playing.current = new Audio(mediaURL(id));
      void playing.current.play().catch(() => {}); // a browser may refuse before the first press
    },
    [mediaURL],
  );
}

type Props = { of: string; transcript: string; onHear: () => void };

/** Plays what a piece says, on its corner; the transcript says it in words. */
export function Sound({ of, transcript, onHear }: Props) {
  const w = useWords();
  return (
    <button
      type="button"
      aria-label={w("hear", { piece: of })}
      {...tip(transcript || w("hearReply"))}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={(e) => {
        e.stopPropagation();
        onHear();
      }}
      className="absolute -bottom-1.5 -left-1.5 grid size-6 place-items-center rounded-[50%] border border-edge bg-paper text-ink"
    >
      <Volume2 size={14} aria-hidden />
    </button>
  );
}
