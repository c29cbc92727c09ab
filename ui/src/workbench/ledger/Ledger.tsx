import { useState } from "react";
import { Tabs } from "radix-ui";
import { ContentGrid } from "../content/ContentGrid";
import { useDraft, useDraftStore } from "../draft";
import { PlacingGrid } from "./PlacingGrid";

/** The table of items and targets beside the board, with its lenses. */
export function Ledger() {
  const solutions = useDraft((s) => s.doc.key.solutions);
  const [solution, setSolution] = useState(0);
  const store = useDraftStore();
  const lens = useDraft((s) => s.lens);
  const shown = Math.min(solution, solutions.length - 1);
  return (
    <Tabs.Root
      value={lens}
      onValueChange={(to) => store.setState({ lens: to })}
      className="flex min-h-0 flex-1 flex-col"
    >
      <div className="flex items-end border-b border-line px-3 pt-2">
        <Tabs.List aria-label="Lens">
          {[
            ["content", "Content"],
            ["placing", "Placing"],
          ].map(([lens, title]) => (
            <Tabs.Trigger
              key={lens}
              value={lens!}
              className="px-3 py-2 font-medium text-slate data-[state=active]:border-b-3 data-[state=active]:border-feather data-[state=active]:font-bold data-[state=active]:text-ink"
            >
              {title}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {lens === "placing" && solutions.length > 1 && (
          <select
            aria-label="Solution"
            value={shown}
            onChange={(e) => setSolution(Number(e.target.value))}
            className="mb-1.5 ml-auto h-8 rounded-(--radius) border border-line bg-paper px-2"
          >
            {solutions.map((s, i) => (
              <option key={i} value={i}>
                {s.name || `Solution ${i + 1}`} of {solutions.length}
              </option>
            ))}
          </select>
        )}
      </div>
      <Tabs.Content value="content" className="flex min-h-0 flex-1 flex-col">
        <ContentGrid />
      </Tabs.Content>
      <Tabs.Content value="placing" className="flex min-h-0 flex-1 flex-col">
        <PlacingGrid solution={shown} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
