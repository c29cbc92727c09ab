import { useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Privacy, Problem } from "../api/types";
import { Select } from "../kit/Select";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { useWhole } from "../kit/useWhole";
import { grouped } from "../words/figures";

const whoever: Record<Privacy["namesFor"], string> = {
  members: t`every member`,
  designers: t`designers`,
  owner: t`owner only`,
};

const settings = ({ namesFor, namesDays, leastGroup }: Privacy): Privacy => ({ namesFor, namesDays, leastGroup });

/** Who sees names, how long they are kept, and how few sittings are too few; what that takes away is said before. */
export function PrivacyFields({ privacy }: { privacy: Privacy }) {
  const queries = useQueryClient();
  const [changed, setChanged] = useState<Partial<Privacy>>({});
  const [problem, setProblem] = useState<Problem>();
  const [saved, setSaved] = useState(false);
  const now = { ...settings(privacy), ...changed };
  const change = (part: Partial<Privacy>) => {
    setChanged({ ...changed, ...part });
    setSaved(false);
  };
  const same = (Object.keys(changed) as (keyof Privacy)[]).every((k) => changed[k] === privacy[k]);
  const taken = useQuery({
    queryKey: ["privacy", now.namesDays],
    enabled: now.namesDays > 0,
    queryFn: () => ask(api.GET("/api/privacy", { params: { query: { days: now.namesDays } } })),
  });
  const counted = now.namesDays === 0 || taken.data !== undefined;
  const goes = now.namesDays > 0 ? (taken.data?.forgets ?? 0) : 0;
  const keep = useWhole(
    ["privacy"],
    () => ask(api.GET("/api/privacy")),
    (next) => ask(api.PUT("/api/privacy", { body: settings(next) })),
  );
  const save = async () => {
    try {
      await keep((kept) => ({ ...kept, ...changed }));
      setProblem(undefined);
      setChanged((since) => (since === changed ? {} : since)); // what was changed while it was saved stays
      setSaved(true);
      await queries.invalidateQueries();
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  const field = "h-9 rounded-(--radius) border border-edge bg-paper px-2";
  const number = (text: string, most: number) => Math.min(most, Math.max(0, Math.round(Number(text) || 0)));
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <h2 className="mb-3 text-base">{t`Names`}</h2>
      <div className="grid items-center gap-x-4 gap-y-3 sm:grid-cols-[16rem_minmax(0,1fr)]">
        <label htmlFor="names-for">{t`Who can see learners’ names:`}</label>
        <Select
          id="names-for"
          value={now.namesFor}
          onPick={(to) => change({ namesFor: to as Privacy["namesFor"] })}
          className={`${field} w-52`}
          options={Object.entries(whoever)}
        />
        <label htmlFor="names-days">{t`Names are kept for`}</label>
        <span className="flex items-center gap-2">
          <input
            id="names-days"
            inputMode="numeric"
            value={now.namesDays || ""}
            onChange={(e) => change({ namesDays: number(e.target.value, 10000) })}
            className={`${field} w-24 text-right`}
          />
          <span className="text-slate">
            {now.namesDays > 0
              ? t`days after the sitting began; what was done is kept without the name`
              : t`days; empty keeps them without a limit`}
          </span>
        </span>
        <label htmlFor="least-group">{t`Show totals only below`}</label>
        <span className="flex items-center gap-2">
          <input
            id="least-group"
            inputMode="numeric"
            value={now.leastGroup || ""}
            onChange={(e) => change({ leastGroup: number(e.target.value, 1000) })}
            className={`${field} w-24 text-right`}
          />
          <span className="text-slate">
            {now.leastGroup > 0
              ? t`sittings per release, for everyone; nothing is listed or downloaded then`
              : t`sittings per release; empty shows everything`}
          </span>
        </span>
      </div>
      {(problem ?? taken.error) && <Said problem={problem ?? problemOf(taken.error)} />}
      <div className="mt-4 flex items-center gap-3">
        <Button kind={goes > 0 && !same ? "grave" : "main"} type="submit" disabled={same || !counted}>
          {goes > 0 && !same ? t`Save and delete ${grouped(goes)} names` : t`Save`}
        </Button>
        <span role="status" className="text-slate">
          {saved && same ? t`Saved` : !same && goes > 0 ? t`This can’t be undone.` : ""}
        </span>
      </div>
    </form>
  );
}
