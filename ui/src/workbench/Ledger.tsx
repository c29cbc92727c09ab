import { memo, useState } from "react";
import { Tabs } from "radix-ui";
import { t } from "@lingui/core/macro";
import { Boundary } from "../kit/Boundary";
import { ContentGrid } from "./content/ContentGrid";
import { useDraft, useDraftStore } from "./model/draft";
import type { Me } from "../api/types";
import { MarksLens } from "./marks/MarksLens";
import { OutcomesLens } from "./outcomes/OutcomesLens";
import { PlaySettings } from "./settings/PlaySettings";
import { RepliesLens } from "./feedback/RepliesLens";
import { forgetView } from "./model/view";
import { ByItem } from "./placing/ByItem";
import { PlacingGrid } from "./placing/PlacingGrid";
import { Solutions } from "./placing/Solutions";

/** Where each item has a place of its own, rows say which. */
const eachItsOwn = ["match", "label", "gaps"];

/** The table of items and targets beside the board, with its lenses. */
export const Ledger = memo(function Ledger({ me }: { me: Me }) {
  const store = useDraftStore();
  const released = useDraft((s) => s.released);
  // A lens that was left open may not be there any more.
  const lens = useDraft((s) => (s.lens === "outcomes" && !s.released ? "placing" : s.lens));
  const solution = useDraft((s) => Math.min(s.solution, s.doc.key.solutions.length - 1));
  const byItem = useDraft((s) => s.byItem ?? eachItsOwn.includes(s.doc.kind));
  const setByItem = (byItem: boolean) => store.setState({ byItem });
  const [compare, setCompare] = useState<number>();
  const solutions = useDraft((s) => s.doc.key.solutions.length);
  const compared = compare !== undefined && compare < solutions && compare !== solution ? compare : undefined;
  return (
    <Tabs.Root
      // Whoever passes by the tabs on the way to what is open does not leave it.
      activationMode="manual"
      value={lens}
      onValueChange={(to) => store.setState({ lens: to })}
      className="flex min-h-0 flex-1 flex-col"
    >
      <div className="flex items-end border-b border-line px-3 pt-2 max-sm:flex-wrap">
        <Tabs.List aria-label={t`View`} className="whitespace-nowrap">
          {[
            ["content", t`Content`],
            ["placing", t`Placing`],
            ["replies", t`Feedback`],
            ["marks", t`Marks`],
            ...(released ? [["outcomes", t`Outcomes`]] : []),
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
        {lens === "placing" && <Solutions solution={solution} compare={compared} onCompare={setCompare} />}
      </div>
      <Boundary what={t`This table`} resetKeys={[lens]} onFail={() => forgetView(store.getState().id)}>
        <Tabs.Content value="content" className="flex min-h-0 flex-1 flex-col">
          <ContentGrid />
        </Tabs.Content>
        <Tabs.Content value="placing" className="flex min-h-0 flex-1 flex-col">
          {byItem ? (
            <ByItem solution={solution} onByItem={setByItem} />
          ) : (
            <PlacingGrid solution={solution} compare={compared} onByItem={setByItem} />
          )}
        </Tabs.Content>
        <Tabs.Content value="replies" className="flex min-h-0 flex-1 flex-col">
          <RepliesLens />
        </Tabs.Content>
        <Tabs.Content value="marks" className="flex min-h-0 flex-1 flex-col">
          <MarksLens />
        </Tabs.Content>
        <Tabs.Content value="outcomes" className="flex min-h-0 flex-1 flex-col">
          <OutcomesLens me={me} />
        </Tabs.Content>
        <Tabs.Content value="play" className="flex min-h-0 flex-1 flex-col">
          <PlaySettings />
        </Tabs.Content>
      </Boundary>
    </Tabs.Root>
  );
});
