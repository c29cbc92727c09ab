import { t } from "@lingui/core/macro";
import type { Which } from "./useOutcomes";

const names: Record<Which, string> = { first: t`First attempt`, final: t`Final` };

/** First attempts or final states. */
export function WhichState({ view, onView }: { view: Which; onView: (view: Which) => void }) {
  return (
    <div
      role="group"
      aria-label={t`Attempt shown`}
      className="flex rounded-(--radius) border border-line bg-paper p-0.5"
    >
      {(["first", "final"] as const).map((which) => (
        <button
          key={which}
          type="button"
          aria-pressed={view === which}
          onClick={() => onView(which)}
          className={`h-7 rounded-sm px-2.5 whitespace-nowrap ${view === which ? "bg-feather-soft font-semibold" : "text-slate"}`}
        >
          {names[which]}
        </button>
      ))}
    </div>
  );
}
