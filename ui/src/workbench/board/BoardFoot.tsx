import { memo, type RefObject } from "react";
import { Hand, Play } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Button } from "../../kit/Button";
import { tip } from "../../kit/tip";
import { partsOf, useDraft, useDraftStore } from "../model/draft";
import { crosshairSays, toolSays } from "./DrawTools";
import { Zoom } from "./Zoom";

type Props = { scroller: RefObject<HTMLElement | null>; scale: number; onRehearse: () => void };

/** Below the board: playing it, what was said last, what is hidden, how large it is. */
export const BoardFoot = memo(function BoardFoot({ scroller, scale, onRehearse }: Props) {
  const store = useDraftStore();
  const hidden = useDraft(({ doc: d }) => [...d.items, ...d.targets, ...d.scenery].filter((p) => p.hidden).length);
  return (
    <div className="flex items-center gap-3 max-lg:flex-wrap">
      <Button onClick={onRehearse}>
        <Play size={15} aria-hidden /> {t`Rehearse`}
      </Button>
      <Button
        {...tip(t`Set the answer key by placing the pieces`)}
        onClick={() => store.setState({ demonstrating: true, way: undefined })}
      >
        <Hand size={15} aria-hidden /> {t`Demonstrate`}
      </Button>
      <Remark />
      <span className="ml-auto flex items-center gap-2 whitespace-nowrap">
        {hidden > 0 && (
          <button
            type="button"
            className="text-feather underline"
            onClick={() =>
              store.getState().change({
                says: t`show what is hidden`,
                apply: (d) => [...d.items, ...d.targets, ...d.scenery].forEach((p) => (p.hidden = false)),
              })
            }
          >
            {t`Show ${hidden} hidden`}
          </button>
        )}
        <Zoom scroller={scroller} percent={Math.round(100 * scale)} />
      </span>
    </div>
  );
});

/** What the last act took with it; else what can be done now. */
function Remark() {
  const remark = useDraft((s) => (s.lens === "content" ? "" : s.remark));
  const tool = useDraft((s) => s.tool);
  const parts = useDraft((s) => s.doc.items.length + s.doc.targets.length);
  const selected = useDraft((s) => partsOf(s.selection).length);
  const led = useDraft((s) => s.crosshair && crosshairSays(s.tool, !!s.crosshair.from));
  const text = remark || led || toolSays[tool] || hint(parts, selected);
  return (
    <span className="line-clamp-2 min-w-0 text-[13px] leading-tight text-slate" {...tip(remark)}>
      {text}
    </span>
  );
}

function hint(parts: number, selected: number) {
  if (parts === 0) return t`Draw targets with the tools on the left; drop pictures to add pieces.`;
  if (selected === 0) return t`Drag parts to move them; double-click to rename or write.`;
  return t`${selected} selected`;
}
