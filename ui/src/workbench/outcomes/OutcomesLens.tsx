import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../../api/client";
import type { Doc, Me } from "../../api/types";
import { TotalsOnly } from "../../outcomes/Outcomes";
import { Placements } from "../../outcomes/Placements";
import { Suspects } from "../../outcomes/Suspects";
import { useOutcomes } from "../../outcomes/useOutcomes";
import { WhichState } from "../../outcomes/WhichState";
import { Select } from "../../kit/Select";
import { Said } from "../../kit/Said";
import { nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { grouped } from "../../words/figures";

/** The release that the lens looks at: the one chosen, else the newest. */
export function useLooked() {
  const id = useDraft((s) => s.id);
  const { release, which } = useDraft((s) => s.looked);
  const releases = useQuery({
    queryKey: ["releases", id],
    queryFn: () => ask(api.GET("/api/activities/{id}/releases", { params: { path: { id } } })),
  });
  const list = releases.data?.releases ?? [];
  const looked = list.find((r) => r.id === release) ?? list[0];
  return { list, looked, which, ready: releases.isSuccess, ...useOutcomes(looked?.id) };
}

/** What learners of a release did, in the ledger; the board shows it as heat. */
export function OutcomesLens({ me }: { me: Me }) {
  const store = useDraftStore();
  const id = useDraft((s) => s.id);
  const chosen = useDraft((s) => s.selection.items);
  const draft = useDraft((s) => s.doc);
  const { list, looked, which, ready, outcomes, doc, right } = useLooked();
  const set = (part: { release?: string; which?: "first" | "final" }) =>
    store.setState({ looked: { ...store.getState().looked, ...part } });
  if (!ready) return <p className="p-4 text-slate">{t`Opening…`}</p>;
  if (!looked)
    return (
      <p className="p-4 text-slate">
        {t`Nothing is released yet. Release it and give learners the link; what they do is then shown here and on the board.`}
      </p>
    );
  const data = outcomes.data;
  const now = data?.figures[which];
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-line px-4 py-2">
        <Select
          label={t`Release`}
          value={looked.id}
          onPick={(to) => set({ release: to })}
          className="h-8 rounded-(--radius) border border-edge bg-paper px-2"
          options={[...list.map((r) => [r.id, t`Release ${r.number}`] as const)]}
        />
        <WhichState view={which} onView={(which) => set({ which })} />
        {now && (
          <span className="text-slate tabular-nums">
            {t`${grouped(now.n)} of ${grouped(data.figures.sittings)} sittings`}
          </span>
        )}
        <Link to={`/activity/${id}/releases`} className="ml-auto text-feather underline underline-offset-4">
          {t`Scores, sittings, re-mark`}
        </Link>
      </div>
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto px-4 py-3">
        {outcomes.isError && <Said problem={problemOf(outcomes.error)} />}
        {data && doc && now && data.least && (
          <TotalsOnly least={data.least} sittings={data.figures.sittings} finished={data.figures.finished} />
        )}
        {data && !data.least && now?.n === 0 && (
          <p className="text-slate">
            {which === "first" ? t`No sitting has come to a check yet.` : t`No sitting has come to its end yet.`}
          </p>
        )}
        {data && doc && now && !data.least && now.n > 0 && (
          <>
            <Suspects figures={now} doc={doc} activity={id} designer={me.role === "designer"} />
            <p className="text-slate">{boardSays(draft, chosen)}</p>
            <Placements
              figures={now}
              times={data.figures.times ?? []}
              doc={doc}
              right={right}
              narrow
              chosen={chosen}
              onChoose={(item, target) => store.getState().select({ items: [item], targets: target ? [target] : [] })}
            />
          </>
        )}
      </div>
    </div>
  );
}

/** What the heat on the board means now. */
function boardSays(doc: Doc, chosen: string[]): string {
  const one = chosen.length === 1 ? doc.items.find((i) => i.id === chosen[0]) : undefined;
  if (one) return t`On the board: where learners put ${nameOf(one)}.`;
  if (chosen.length > 1) return t`On the board: where learners put these ${chosen.length}.`;
  return t`On the board: how much of what was put there is wrong. Choose an item to see where it went.`;
}
