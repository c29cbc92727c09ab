import { useRef, useState } from "react";
import { ArrowUp, ImagePlus, X } from "lucide-react";
import { problemOf } from "../../api/client";
import type { Doc } from "../../api/types";
import { Button } from "../../kit/Button";
import { mediaURL } from "../../board/mediaURL";
import { upload } from "../../kit/upload";
import { useDraft, useDraftStore } from "../model/draft";
import { Num } from "../../kit/sentences";
import { HintText } from "./HintText";
import { tip } from "../../kit/tip";

type Hint = Doc["hints"][number];

/** The hints in the order in which they are given, and what each costs. */
export function Hints() {
  const store = useDraftStore();
  const hints = useDraft((s) => s.doc.hints);
  const cost = useDraft((s) => s.doc.marks.hintCost);
  const file = useRef<HTMLInputElement>(null);
  const at = useRef(0);
  const set = (says: string, apply: (list: Hint[]) => void, merge?: string) =>
    store.getState().change({ says, merge, apply: (d) => apply(d.hints) });
  const [writing, setWriting] = useState<number>();
  const add = (place: boolean) => {
    set("add a hint", (list) => void list.push({ text: "", picture: "", alt: "", place }));
    if (!place) setWriting(hints.length);
  };
  const tool = "grid size-6 place-items-center rounded-(--radius) text-slate hover:bg-mist disabled:opacity-40";
  return (
    <div>
      <p>
        {hints.length === 0
          ? "There are no hints. "
          : `They can ask for ${hints.length} ${hints.length === 1 ? "hint" : "hints"}, shown one at a time; each costs `}
        {hints.length > 0 && (
          <>
            <Num
              label="Cost of a hint in percent"
              value={cost}
              low={0}
              high={100}
              whole
              onDone={(n) =>
                store.getState().change({ says: "change what hints cost", apply: (d) => void (d.marks.hintCost = n) })
              }
            />{" "}
            % of the points.{" "}
          </>
        )}
        <Button className="h-7 px-2" onClick={() => add(false)}>
          Add a hint
        </Button>{" "}
        <Button className="h-7 px-2" {...tip("Puts one missing piece where it is correct")} onClick={() => add(true)}>
          Add a “place one piece” hint
        </Button>
      </p>
      <ol className="flex flex-col gap-1">
        {hints.map((h, i) => (
          <li key={i} className="flex items-start gap-1.5">
            <span className="w-5 text-right text-slate">{i + 1}</span>
            {h.place ? (
              <span className="flex-1 font-medium">Places one missing piece</span>
            ) : (
              <>
                {h.picture && (
                  <img src={mediaURL(h.picture)} alt={h.alt} className="h-7 rounded-sm border border-line bg-picture" />
                )}
                <HintText
                  n={i + 1}
                  text={h.text}
                  writing={writing === i}
                  onWriting={(on) => setWriting(on ? i : undefined)}
                  onChange={(text) => set("write a hint", (list) => (list[i]!.text = text), `hint ${i}`)}
                />
                <button
                  type="button"
                  className={tool}
                  aria-label={`Picture of hint ${i + 1}`}
                  {...tip(h.picture ? "Replace the picture (shown above the text)" : "Picture")}
                  onClick={() => {
                    at.current = i;
                    file.current?.click();
                  }}
                >
                  <ImagePlus size={14} aria-hidden />
                </button>
              </>
            )}
            <button
              type="button"
              className={tool}
              disabled={i === 0}
              aria-label={`Hint ${i + 1} earlier`}
              onClick={() => set("reorder hints", (list) => void list.splice(i - 1, 0, list.splice(i, 1)[0]!))}
            >
              <ArrowUp size={14} aria-hidden />
            </button>
            <button
              type="button"
              className={tool}
              aria-label={`Remove hint ${i + 1}`}
              onClick={() => set("remove a hint", (list) => void list.splice(i, 1))}
            >
              <X size={14} aria-hidden />
            </button>
          </li>
        ))}
      </ol>
      <input
        ref={file}
        type="file"
        aria-label="Picture of a hint"
        accept="image/*"
        className="hidden"
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          const i = at.current;
          if (chosen)
            upload(chosen, chosen.name).then(
              ({ id }) => set("give a hint a picture", (list) => void (list[i] && (list[i].picture = id))),
              (error: unknown) => store.setState({ remark: problemOf(error).detail }),
            );
          e.target.value = "";
        }}
      />
    </div>
  );
}
