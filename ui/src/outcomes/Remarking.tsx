import { useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, problemOf } from "../api/client";
import type { Problem, RemarkLook, Release } from "../api/types";
import { short } from "../player/words";
import { Button } from "../shared/Button";
import { Dialog } from "../shared/Dialog";
import { Said } from "../shared/Said";

const day = new Intl.DateTimeFormat("en", { dateStyle: "medium", timeStyle: "short" });
const sittings = (n: number) => (n === 1 ? "one sitting" : `${n} sittings`);

/** Scores finished sittings again under the draft: what changes is seen before, and can be taken back. */
export function Remarking({ release, designer }: { release: Release; designer: boolean }) {
  const queries = useQueryClient();
  const path = { params: { path: { id: release.id } } };
  const [look, setLook] = useState<RemarkLook>();
  const [problem, setProblem] = useState<Problem>();
  const [busy, setBusy] = useState(false);
  const made = useQuery({
    queryKey: ["remarks", release.id],
    queryFn: () => ask(api.GET("/api/releases/{id}/remarks", path)),
  });
  const act = async (what: () => Promise<void>) => {
    setBusy(true);
    try {
      await what();
      setProblem(undefined);
    } catch (error) {
      setProblem(problemOf(error));
    } finally {
      setBusy(false);
    }
  };
  const again = async () => {
    for (const key of ["remarks", "outcomes", "sittings"])
      await queries.invalidateQueries({ queryKey: [key, release.id] });
  };
  const list = made.data?.remarks ?? [];
  const latest = list.find((k) => !k.revertedAt);
  if (!designer && list.length === 0) return null;
  return (
    <section aria-label="Re-mark" className="rounded-(--radius) border border-line bg-paper px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <p className="flex-1 text-slate">
          Was the key wrong? Correct it in the activity, and score the finished sittings of this release again.
        </p>
        {designer && (
          <Button
            disabled={busy}
            onClick={() => void act(async () => setLook(await ask(api.GET("/api/releases/{id}/remark", path))))}
          >
            Re-mark…
          </Button>
        )}
      </div>
      {list.length > 0 && (
        <ul className="mt-2">
          {list.map((k) => (
            <li key={k.id} className="flex flex-wrap items-center gap-3 border-t border-line py-1.5">
              <span className={`flex-1 ${k.revertedAt ? "text-slate line-through" : ""}`}>
                {day.format(new Date(k.madeAt))}, {k.madeBy}: {sittings(k.sittings)} scored again, {k.changed} with
                another score
              </span>
              {k.revertedAt && <span className="text-slate">taken back {day.format(new Date(k.revertedAt))}</span>}
              {designer && k === latest && (
                <Button
                  disabled={busy}
                  onClick={() =>
                    void act(async () => {
                      await ask(
                        api.POST("/api/releases/{id}/remarks/{remark}/revert", {
                          params: { path: { id: release.id, remark: k.id } },
                        }),
                      );
                      await again();
                    })
                  }
                >
                  Take it back
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      {problem && !look && <Said problem={problem} />}
      {look && (
        <Dialog
          open
          wide
          onClose={() => setLook(undefined)}
          title="Re-mark under the draft as it is now"
          about="Nothing changes until you say so, and it can be taken back."
        >
          <h3 className="font-semibold">How the draft differs from this release</h3>
          <ul className="mb-3 list-disc pl-5">
            {look.changes.map((c, i) => (
              <li key={i}>{c}</li>
            ))}
            {look.changes.length === 0 && <li>Not at all.</li>}
          </ul>
          {look.cannot ? (
            <p className="text-ember">{look.cannot}</p>
          ) : (
            <p className="mb-3">
              Of {sittings(look.sittings)}, <b>{look.better}</b> would score more, <b>{look.worse}</b> less, and{" "}
              {look.sittings - look.better - look.worse} the same.
            </p>
          )}
          {look.rows.length > 0 && (
            <div className="max-h-72 overflow-auto rounded-(--radius) border border-line">
              <table className="w-full">
                <thead>
                  <tr className="bg-shade text-left text-slate">
                    {["Learner", "Score now", "Score then", "Band then", "Moves that come out differently"].map((h) => (
                      <th key={h} className="sticky top-0 bg-shade px-3 py-1.5 font-semibold">
                        {h}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {look.rows.map((r) => (
                    <tr key={r.sitting} className="border-t border-line/70">
                      <td className="px-3 py-1 font-medium">{r.learner}</td>
                      <td className="px-3 py-1 whitespace-nowrap tabular-nums">
                        {short(r.was.score)} ({short(r.was.percent)} %)
                      </td>
                      <td className="px-3 py-1 whitespace-nowrap tabular-nums">
                        <b>{short(r.is.score)}</b> ({short(r.is.percent)} %)
                      </td>
                      <td className="px-3 py-1">
                        {r.is.band}
                        {r.was.band !== r.is.band && <span className="text-slate"> (was {r.was.band || "none"})</span>}
                      </td>
                      <td className="px-3 py-1 tabular-nums">{r.gone || "–"}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
          {problem && <Said problem={problem} />}
          <div className="mt-4 flex justify-end gap-2">
            <Button onClick={() => setLook(undefined)}>Cancel</Button>
            <Button
              kind="main"
              disabled={busy || !!look.cannot || look.sittings === 0}
              onClick={() =>
                void act(async () => {
                  await ask(api.POST("/api/releases/{id}/remark", { ...path, body: { revision: look.revision } }));
                  setLook(undefined);
                  await again();
                })
              }
            >
              Re-mark {sittings(look.sittings)}
            </Button>
          </div>
        </Dialog>
      )}
    </section>
  );
}
