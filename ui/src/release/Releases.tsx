import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { Share2 } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { EntryFields } from "./EntryFields";
import { GetItOut } from "./GetItOut";
import { Outcomes } from "../outcomes/Outcomes";
import { Sittings } from "../outcomes/Sittings";
import { LinkField } from "../kit/LinkField";
import { Runs } from "./Runs";
import { grouped, moment } from "../words/figures";

/** An activity's releases, and under each who played it and with what score. */
export function Releases({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const [chosen, setChosen] = useState<string | null>(null);
  const [view, setView] = useState<"outcomes" | "sittings">("outcomes");
  const [getting, setGetting] = useState(false);
  const path = { params: { path: { id } } };
  const releases = useQuery({
    queryKey: ["releases", id],
    queryFn: () => ask(api.GET("/api/activities/{id}/releases", path)),
    refetchInterval: 5000,
  });
  const list = releases.data?.releases ?? [];
  const series = releases.data?.series ?? false;
  const current = list.find((r) => r.id === chosen) ?? list[0];
  return (
    <div className="min-h-full">
      <header className="flex min-h-12 flex-wrap items-center gap-x-3 border-b border-line bg-paper px-4">
        <Link to="/" className="text-slate hover:text-ink">
          {t`Shelf /`}
        </Link>
        <Link to={`/${series ? "series" : "activity"}/${id}`} className="text-slate hover:text-ink">
          {releases.data?.title ?? "…"} /
        </Link>
        <h1 className="text-lg">{t`Releases and sittings`}</h1>
      </header>
      <main className="mx-auto max-w-6xl px-4 py-6">
        {releases.isError && <Said problem={problemOf(releases.error)} />}
        {releases.data && list.length === 0 && (
          <p className="rounded-(--radius) border border-line bg-paper p-6 text-slate">
            {t`Nothing is released yet. Open the activity and choose Release; learners then play it at a link, and their sittings are listed here.`}
          </p>
        )}
        {current && (
          <div className="grid grid-cols-[minmax(0,1fr)] gap-6 md:grid-cols-[220px_minmax(0,1fr)]">
            <ul aria-label={t`Releases`} className="flex flex-col gap-1">
              {list.map((r) => (
                <li key={r.id}>
                  <button
                    type="button"
                    aria-current={r.id === current.id}
                    onClick={() => setChosen(r.id)}
                    className={`w-full rounded-(--radius) border px-3 py-2 text-left ${r.id === current.id ? "border-feather bg-feather-soft" : "border-line bg-paper hover:bg-shade"}`}
                  >
                    <span className="font-semibold">{t`Release ${r.number}`}</span>
                    <span className="block text-slate">{moment(r.releasedAt)}</span>
                    <span className="block text-slate">
                      {t`${plural(r.sittings, { one: "# sitting", other: "# sittings" })}, ${grouped(r.finished)} finished`}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
            <section aria-label={t`Release ${current.number}`}>
              <div className="flex flex-wrap items-center gap-2">
                <div className="min-w-64 flex-1">
                  <LinkField path={current.link} />
                </div>
                {me.role === "designer" && (
                  <Button onClick={() => setGetting(true)}>
                    <Share2 size={16} aria-hidden /> {t`Get it out…`}
                  </Button>
                )}
              </div>
              {getting && (
                <GetItOut release={current} title={releases.data?.title ?? ""} onClose={() => setGetting(false)} />
              )}
              {me.role === "designer" && <EntryFields key={current.id} release={current} activity={id} />}
              {series ? (
                <Runs key={current.id} release={current} activity={id} me={me} />
              ) : (
                <>
                  <div role="tablist" aria-label={t`View`} className="mt-5 mb-3 flex gap-1 border-b border-line">
                    {(["outcomes", "sittings"] as const).map((what) => (
                      <button
                        key={what}
                        type="button"
                        role="tab"
                        aria-selected={view === what}
                        onClick={() => setView(what)}
                        className={`-mb-px border-b-3 px-3 py-1.5 ${view === what ? "border-feather font-semibold" : "border-transparent text-slate"}`}
                      >
                        {what === "outcomes" ? t`Outcomes` : t`Sittings`}
                      </button>
                    ))}
                  </div>
                  {view === "outcomes" ? (
                    <Outcomes key={current.id} release={current} activity={id} me={me} />
                  ) : (
                    <Sittings key={current.id} release={current} activity={id} me={me} />
                  )}
                </>
              )}
            </section>
          </div>
        )}
      </main>
    </div>
  );
}
