import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Trace } from "../api/types";
import { Erasing } from "../outcomes/Erasing";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { Checkbox } from "../kit/Checkbox";
import { day } from "../words/figures";

const kinds = { sitting: t`Sitting`, run: t`Run through a series`, roster: t`Roster entry` };

const words = (trace: Trace) =>
  [`${kinds[trace.kind]}: ${trace.where}`, trace.number && t`release ${trace.number}`, day(trace.at!)]
    .filter(Boolean)
    .join(", ");
const keyOf = (trace: Trace) => `${trace.kind} ${trace.id}`;

/** All that a workspace keeps of a learner, found by the name, and deleted together. */
export function Traces() {
  const [name, setName] = useState("");
  const [asked, setAsked] = useState("");
  const [kept, setKept] = useState<string[]>([]);
  const [erasing, setErasing] = useState(false);
  const traces = useQuery({
    queryKey: ["traces", asked],
    enabled: asked !== "",
    queryFn: () => ask(api.POST("/api/learners/find", { body: { name: asked } })),
  });
  const list = traces.data?.traces ?? [];
  const going = list.filter((trace) => !kept.includes(keyOf(trace)));
  return (
    <>
      <h2 className="text-base">{t`Delete a learner’s data`}</h2>
      <p className="mb-3 text-slate">{t`Enter the full name exactly as given (upper/lower case ignored).`}</p>
      <form
        className="flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          setAsked(name.trim());
          setKept([]);
        }}
      >
        <input
          aria-label={t`The learner’s name`}
          value={name}
          maxLength={200}
          onChange={(e) => setName(e.target.value)}
          className="h-9 w-72 rounded-(--radius) border border-edge bg-paper px-2"
        />
        <Button type="submit" disabled={!name.trim()} className="h-9">
          {t`Find`}
        </Button>
      </form>
      {traces.isError && <Said problem={problemOf(traces.error)} />}
      {traces.data && list.length === 0 && (
        <p role="status" className="mt-3 text-slate">
          {t`No data for “${asked}”.`}
        </p>
      )}
      {list.length > 0 && (
        <>
          <ul aria-label={t`What is kept`} className="my-3 max-h-72 overflow-auto">
            {list.map((trace) => (
              <li key={keyOf(trace)}>
                <label className="flex items-center gap-2 border-b border-line py-1.5">
                  <Checkbox
                    on={!kept.includes(keyOf(trace))}
                    onChange={(on) => setKept(on ? kept.filter((k) => k !== keyOf(trace)) : [...kept, keyOf(trace)])}
                  />
                  {words(trace)}
                </label>
              </li>
            ))}
          </ul>
          <Button kind="grave" disabled={going.length === 0} onClick={() => setErasing(true)}>
            {plural(going.length, { one: "Delete it…", other: "Delete these #…" })}
          </Button>
        </>
      )}
      {erasing && (
        <Erasing
          traces={going.map(({ kind, id }) => ({ kind, id }))}
          says={going.map(words)}
          onClose={() => setErasing(false)}
        />
      )}
    </>
  );
}
