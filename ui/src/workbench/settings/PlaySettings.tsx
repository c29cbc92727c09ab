import { useQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { engine } from "../../engine/engine";
import { Button } from "../../kit/Button";
import { tip } from "../../kit/tip";
import { useDraft, useDraftStore } from "../model/draft";
import { LearnerWords } from "./LearnerWords";
import { Playing } from "./Playing";
import { Trying } from "./Trying";

/** How it is played, told along the learner's time: sentences with choices in them. */
export function PlaySettings() {
  const store = useDraftStore();
  const presets = useQuery({ queryKey: ["presets"], queryFn: () => engine.presets(), staleTime: Infinity }).data ?? [];
  return (
    <div className="min-h-0 flex-1 overflow-auto" role="group" aria-label={t`Settings for learners`}>
      <div className="flex flex-wrap items-center gap-2 border-b border-line bg-shade px-4 py-2">
        <span>{t`Preset:`}</span>
        {presets.map((preset) => (
          <Button
            key={preset.id}
            className="h-7 px-2"
            {...tip(preset.says)}
            onClick={() => void store.getState().edit(t`set it for ${preset.name}`, { act: "preset", to: preset.id })}
          >
            {preset.name}
          </Button>
        ))}
        <Remark />
      </div>
      <Playing />
      <Trying />
      <LearnerWords />
    </div>
  );
}

function Remark() {
  const remark = useDraft((s) => s.remark);
  return remark ? (
    <p className="basis-full text-slate" role="status">
      {remark}
    </p>
  ) : null;
}
