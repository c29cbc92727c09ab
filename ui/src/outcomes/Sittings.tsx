import { useDeferredValue, useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ChevronLeft, ChevronRight, Search } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me, Release } from "../api/types";
import { Select } from "../kit/Select";
import { Button } from "../kit/Button";
import { endsAt } from "../kit/ends";
import { Said } from "../kit/Said";
import { Downloads } from "./Downloads";
import { Erasing } from "./Erasing";
import { TotalsOnly } from "./Outcomes";
import { phases, SittingsTable, type Chosen, type Order, type Phase } from "./SittingsTable";
import { grouped } from "../words/figures";

type Props = { release: Release; activity: string; me: Me; step?: number };

/** Who played a release, or a step of a series, and with what score: searched, filtered, sorted, a page at a time. */
export function Sittings({ release, activity, me, step }: Props) {
  const [text, setText] = useState("");
  const [phase, setPhase] = useState<Phase | "">("");
  const [band, setBand] = useState("");
  const [by, setBy] = useState<Order>({ sort: "started", down: true });
  const [page, setPage] = useState(0);
  const [chosen, setChosen] = useState<Chosen>({});
  const [erasing, setErasing] = useState(false);
  const asked = {
    text: useDeferredValue(text.trim()) || undefined,
    phase: phase || undefined,
    band: band || undefined,
    ...by,
    page,
  };
  const sittings = useQuery({
    queryKey: ["sittings", release.id, step, asked],
    queryFn: () =>
      ask(
        api.POST("/api/releases/{id}/sittings/search", {
          params: { path: { id: release.id }, query: { step } },
          body: asked,
        }),
      ),
    refetchInterval: 5000,
    placeholderData: keepPreviousData,
  });
  const s = sittings.data;
  const toFirstPage = () => setPage(0);
  const field = "h-8 rounded-(--radius) border border-edge bg-paper px-2";
  if (sittings.isError) return <Said problem={problemOf(sittings.error)} />;
  if (!s) return <p className="text-slate">{t`Opening…`}</p>;
  if (s.least) return <TotalsOnly least={s.least} sittings={s.all} />;
  if (s.all === 0)
    return (
      <p className="rounded-(--radius) border border-line bg-paper p-6 text-slate">
        {t`Nobody has played this yet. Give learners the link above.`}
      </p>
    );
  const pages = Math.max(1, Math.ceil(s.found / s.onPage));
  const many = Object.keys(chosen).length;
  const replay = (id: number) =>
    `/activity/${activity}/releases/${release.id}/sittings/${id}${step ? `?step=${step}` : ""}`;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <label className="relative">
          <Search size={15} aria-hidden className="absolute top-2 left-2 text-slate" />
          <input
            type="search"
            aria-label={s.names ? t`Find a learner` : t`Find a sitting by its number`}
            placeholder={s.names ? t`Find a learner` : t`Sitting number`}
            value={text}
            onChange={(e) => (setText(e.target.value), toFirstPage())}
            className={`${field} w-52 pl-7`}
          />
        </label>
        <Select
          label={t`State`}
          value={phase}
          onPick={(to) => {
            setPhase(to as Phase | "");
            toFirstPage();
          }}
          className={field}
          options={[["", t`All states`], ...Object.entries(phases)]}
        />
        {s.bands.length > 0 && (
          <Select
            label={t`Band`}
            value={band}
            onPick={(to) => {
              setBand(to);
              toFirstPage();
            }}
            className={field}
            options={[["", t`All bands`], ...s.bands.map((b) => [b, b] as const)]}
          />
        )}
        <span role="status" className="text-slate tabular-nums">
          {s.found === s.all
            ? plural(s.all, { one: "# sitting", other: "# sittings" })
            : t`${grouped(s.found)} of ${grouped(s.all)}`}
        </span>
        <span className="ml-auto flex items-center gap-2">
          {me.owner && many > 0 && (
            <Button onClick={() => setErasing(true)}>
              {plural(many, { one: "Delete this sitting…", other: "Delete # sittings…" })}
            </Button>
          )}
          <Downloads release={release.id} step={step} />
        </span>
      </div>
      <div className="overflow-auto rounded-(--radius) border border-line bg-paper">
        <SittingsTable
          list={s.sittings}
          points={s.points}
          names={s.names}
          by={by}
          onBy={(by) => (setBy(by), toFirstPage())}
          chosen={chosen}
          onChosen={me.owner ? setChosen : undefined}
          replay={replay}
        />
        {s.found === 0 && <p className="p-6 text-slate">{t`No matches`}</p>}
      </div>
      {pages > 1 && (
        <nav aria-label={t`Pages`} className="mt-2 flex items-center justify-end gap-2 text-slate tabular-nums">
          <Button aria-label={t`Previous page`} {...endsAt(page === 0, () => setPage(page - 1))} className="px-2">
            <ChevronLeft size={16} />
          </Button>
          {grouped(page * s.onPage + 1)}–{grouped(Math.min(s.found, (page + 1) * s.onPage))}
          <Button aria-label={t`Next page`} {...endsAt(page >= pages - 1, () => setPage(page + 1))} className="px-2">
            <ChevronRight size={16} />
          </Button>
        </nav>
      )}
      {erasing && (
        <Erasing
          traces={Object.keys(chosen).map((id) => ({ kind: "sitting" as const, id: Number(id) }))}
          says={Object.values(chosen)}
          onClose={(done) => {
            setErasing(false);
            if (done) setChosen({});
          }}
        />
      )}
    </>
  );
}
