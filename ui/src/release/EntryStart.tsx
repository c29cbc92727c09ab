import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask } from "../api/client";
import type { Entry } from "../api/types";
import { Select } from "../kit/Select";
import { choice, Moment } from "./Moment";
import { RosterDialog } from "./RosterDialog";

/** Who may begin with a release from its first moment on. */
export function EntryStart({ entry, onEntry }: { entry: Entry; onEntry: (e: Entry) => void }) {
  const rosters = useQuery({ queryKey: ["rosters"], queryFn: () => ask(api.GET("/api/rosters")) });
  const list = rosters.data?.rosters ?? [];
  const [making, setMaking] = useState(false);
  return (
    <fieldset className="mb-2 border-t border-line pt-2 leading-9">
      <legend className="sr-only">{t`Who may begin`}</legend>
      <div className="flex flex-wrap items-center gap-x-2">
        <Select
          label={t`Who may begin`}
          value={entry.roster ?? ""}
          onPick={(to) => (to === "new" ? setMaking(true) : onEntry({ ...entry, roster: to || undefined }))}
          className={choice}
          options={[
            ["", t`Anyone with the link`],
            ...list.map((r) => [r.id, t`The roster ${r.name} (${r.learners})`] as const),
            ["new", t`A new roster…`],
          ]}
        />
        <span>{entry.roster ? t`may begin, each by a code,` : t`may begin, giving a name,`}</span>
        <Moment
          words={t`from`}
          label={t`Opens`}
          at={entry.opensAt}
          onAt={(opensAt) => onEntry({ ...entry, opensAt })}
        />
        <Moment
          words={t`until`}
          label={t`Closes`}
          at={entry.closesAt}
          onAt={(closesAt) => onEntry({ ...entry, closesAt })}
        />
      </div>
      <p className="text-[13px] leading-snug text-slate">
        {t`Without dates it opens now and never closes. Everything here can be changed later.`}
      </p>
      {making && (
        <RosterDialog
          id=""
          onClose={() => setMaking(false)}
          onMade={(roster) => onEntry({ ...entry, roster })}
          onDeleted={() => {
            onEntry({ ...entry, roster: undefined });
            setMaking(false);
          }}
        />
      )}
    </fieldset>
  );
}
