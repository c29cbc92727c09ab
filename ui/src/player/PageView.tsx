import type { ReactNode } from "react";
import { Volume2 } from "lucide-react";
import type { Page } from "../api/types";
import { RichText } from "../board/RichText";
import { useSound } from "./Sound";
import { useWords } from "../words/words";

type Props = { page: Page; mediaURL: (id: string) => string; children: ReactNode };

/** A step of a series that only shows something. */
export function PageView({ page, mediaURL, children }: Props) {
  const w = useWords();
  const hear = useSound(mediaURL);
  return (
    <main className="flex-1 overflow-auto px-4 py-6">
      <article className="mx-auto max-w-2xl rounded-(--radius) border border-line bg-paper p-6 shadow-(--shadow-card)">
        <h1 className="mb-3 text-2xl">{page.title}</h1>
        {page.picture && (
          <img
            src={mediaURL(page.picture)}
            alt={page.alt}
            className="mb-4 max-h-80 w-full rounded-sm bg-picture object-contain"
          />
        )}
        <div className="text-base leading-relaxed">
          <RichText nodes={page.rich} />
        </div>
        {page.sound && (
          <div className="mt-3">
            <button
              type="button"
              onClick={() => hear(page.sound)}
              className="inline-flex min-h-8 items-center gap-2 font-medium text-feather underline underline-offset-4"
            >
              <Volume2 size={16} aria-hidden /> {w("hearReply")}
            </button>
            {page.transcript && <p className="mt-1 text-slate">{page.transcript}</p>}
          </div>
        )}
        <div className="mt-6 flex flex-wrap justify-between gap-2">{children}</div>
      </article>
    </main>
  );
}
