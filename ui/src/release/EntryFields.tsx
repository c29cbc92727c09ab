import { useEffect, useRef, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { api, ask, problemOf } from "../api/client";
import type { Entry, Problem, Release } from "../api/types";
import { Select } from "../kit/Select";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { useGoesOn } from "../kit/useGoesOn";
import { useTurns } from "../kit/useTurns";
import { Num } from "../kit/sentences";
import { TypedInput } from "../kit/TypedInput";
import { choice, Moment } from "./Moment";
import { RosterDialog } from "./RosterDialog";
import { grouped, moment } from "../words/figures";

/** Who may begin, when and how often, as a sentence. */
function summary(e: Entry, roster: string | undefined): string {
  const when = [
    e.opensAt && t`from ${moment(e.opensAt)}`,
    e.closesAt && t`until ${moment(e.closesAt)}`,
    e.mostEach &&
      (e.roster
        ? plural(e.mostEach, { one: "each at most once", other: "each at most # times" })
        : plural(e.mostEach, {
            one: "each learner of a learning platform at most once",
            other: "each learner of a learning platform at most # times",
          })),
    e.most && t`at most ${grouped(e.most)} in all`,
  ].filter(Boolean);
  const who = e.roster
    ? t`Learners on roster ${roster ?? ""}, with a personal code`
    : t`Anyone with the link can start by entering a name`;
  return [who, ...when].join(", ") + ".";
}

/** How many sittings can be allowed, of all learners and of each. */
const atMost = { most: 1_000_000, mostEach: 1000 };

/** Who may begin with a release, when, and how often. */
export function EntryFields({ release, activity }: { release: Release; activity: string }) {
  const queries = useQueryClient();
  const rosters = useQuery({ queryKey: ["rosters"], queryFn: () => ask(api.GET("/api/rosters")) });
  const [problem, setProblem] = useState<Problem>();
  const [editing, setEditing] = useState<string>();
  const [open, setOpen] = useState(false);
  const holder = useGoesOn(open);
  const { entry } = release;
  const latest = useRef(entry);
  useEffect(() => {
    if ((entry.rev ?? 0) >= (latest.current.rev ?? 0)) latest.current = entry;
  }, [entry]);
  const inTurn = useTurns();
  /** Changes the settings as they are when its turn comes: of two quick changes none undoes the other. */
  const set = (change: Partial<Entry>) =>
    inTurn(async () => {
      try {
        const body = { ...latest.current, ...change };
        const changed = await ask(api.PUT("/api/releases/{id}/entry", { params: { path: { id: release.id } }, body }));
        latest.current = changed.entry;
        setProblem(undefined);
      } catch (error) {
        setProblem(problemOf(error));
      }
      await queries.invalidateQueries({ queryKey: ["releases", activity] });
    });
  const number = (text: string, key: keyof typeof atMost) => {
    const n = text.trim() === "" ? 0 : Number(text);
    if (!Number.isInteger(n) || n < 0 || n > atMost[key]) return false;
    void set({ [key]: n });
  };
  const list = rosters.data?.rosters ?? [];
  const chosen = list.find((r) => r.id === entry.roster);
  const given = chosen?.mostTime ?? 100;
  const tooLittle = release.allowsTime > 0 && given > release.allowsTime && (
    <p role="status" className="mt-2 flex flex-wrap items-center gap-x-3 leading-snug text-brass">
      {t`Some learners in this roster get ${given}% of the time, but this release allows ${release.allowsTime}% at most.`}
      <Button onClick={() => void set({ extension: given })}>{t`Allow ${given}% in this release`}</Button>
    </p>
  );
  if (!open)
    return (
      <section ref={holder} aria-label={t`Entry`} className="mt-3">
        <div className="flex flex-wrap items-center gap-x-3">
          {summary(entry, chosen?.name)}
          <Button onClick={() => setOpen(true)}>{t`Access settings…`}</Button>
        </div>
        {tooLittle}
      </section>
    );
  const upTo = (key: keyof typeof atMost) => t`whole numbers to ${grouped(atMost[key])}, or nothing for any`;
  const inAll = (
    <TypedInput
      label={t`Sittings in all`}
      rule={upTo("most")}
      inputMode="numeric"
      placeholder={t`any`}
      value={entry.most ? String(entry.most) : ""}
      onDone={(text) => number(text, "most")}
      className="w-16 text-right"
    />
  );
  return (
    <section
      ref={holder}
      aria-label={t`Entry`}
      className="mt-4 rounded-(--radius) border border-line bg-paper px-4 py-3 leading-9"
    >
      <div className="flex flex-wrap items-center gap-x-2">
        <Select
          label={t`Who may begin`}
          value={entry.roster ?? ""}
          onPick={(to) => (to === "new" ? setEditing("") : void set({ roster: to || undefined }))}
          className={choice}
          options={[
            ["", t`Anyone with the link`],
            ...list.map((r) => [r.id, t`The roster ${r.name} (${r.learners})`] as const),
            ["new", t`A new roster…`],
          ]}
        />
        <span>{entry.roster ? t`may begin, each by a code.` : t`may begin, giving a name.`}</span>
        {entry.roster && <Button onClick={() => setEditing(entry.roster)}>{t`Edit roster`}</Button>}
      </div>
      <div className="flex flex-wrap items-center gap-x-2">
        <Moment words={t`From`} label={t`Opens`} at={entry.opensAt} onAt={(opensAt) => void set({ opensAt })} />
        <Moment words={t`until`} label={t`Closes`} at={entry.closesAt} onAt={(closesAt) => void set({ closesAt })} />
      </div>
      <div className="flex flex-wrap items-center gap-x-2">
        <label className="flex items-center gap-2">
          <Trans>
            Sittings for each learner: at most
            <TypedInput
              label={t`Sittings of each learner`}
              rule={upTo("mostEach")}
              inputMode="numeric"
              placeholder={t`any`}
              value={entry.mostEach ? String(entry.mostEach) : ""}
              onDone={(text) => number(text, "mostEach")}
              className="w-14 text-right"
            />
            times;
          </Trans>
        </label>
        <label className="flex items-center gap-2">
          <Trans>in all at most {inAll} times.</Trans>
        </label>
      </div>
      {!entry.roster && !!entry.mostEach && (
        <p className="text-[13px] leading-snug text-slate">
          {t`This counts learners who come from a learning platform. Those who only give a name can begin again.`}
        </p>
      )}
      {release.allowsTime > 0 && (
        <label className="flex flex-wrap items-center gap-2">
          <Trans>
            Moves made in time count if they arrive up to
            <Num
              label={t`Seconds allowed for lost connections`}
              value={entry.allowance ?? 120}
              low={0}
              high={86400}
              whole
              onDone={(allowance) => void set({ allowance })}
            />
            seconds late, for lost connections.
          </Trans>
        </label>
      )}
      {tooLittle}
      <div className="flex items-center gap-3">
        <p className="flex-1 text-[13px] leading-snug text-slate">
          {t`Learners who have started can finish after closing time.`}
        </p>
        <Button onClick={() => setOpen(false)}>{t`Hide`}</Button>
      </div>
      {problem && <Said problem={problem} />}
      {editing !== undefined && (
        <RosterDialog
          id={editing}
          release={{ ...release, onAllow: (extension) => void set({ extension }) }}
          onClose={() => setEditing(undefined)}
          onMade={(id) => void set({ roster: id })}
          onDeleted={() => setEditing(undefined)}
        />
      )}
    </section>
  );
}
