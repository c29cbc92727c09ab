import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Connections } from "../api/types";
import { Button } from "../kit/Button";
import { Field } from "../kit/LabelledField";
import { Said } from "../kit/Said";
import { useGoesOn } from "../kit/useGoesOn";

type Props = { now: Connections; onChanged: (now: Connections) => void };

/** Where a statement goes for each answer and result, whichever way learners came. */
export function RecordStore({ now, onChanged }: Props) {
  const [open, setOpen] = useState(false);
  const [x, setX] = useState({ endpoint: "", user: "", password: "" });
  const holder = useGoesOn<HTMLSpanElement>(open);
  const keep = useMutation({
    mutationFn: () => ask(api.PUT("/api/records", { body: x })),
    onSuccess: (after) => {
      onChanged(after);
      setOpen(false);
      setX({ endpoint: "", user: "", password: "" });
    },
  });
  const drop = useMutation({ mutationFn: () => ask(api.DELETE("/api/records")), onSuccess: onChanged });
  return (
    <section aria-label={t`Record store`} className="rounded-(--radius) border border-line bg-paper px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">{t`Record store`}</h2>
        <p className="mr-auto text-slate [overflow-wrap:anywhere]">
          {now.records ? now.records.endpoint : t`None. With one, each answer and result is sent as an xAPI statement.`}
        </p>
        {now.records && (
          <Button kind="quiet" disabled={drop.isPending} onClick={() => drop.mutate()}>
            {t`Stop sending`}
          </Button>
        )}
        <span ref={holder} className="contents">
          {!open && <Button onClick={() => setOpen(true)}>{now.records ? t`Change…` : t`Set up…`}</Button>}
        </span>
      </div>
      {drop.error && <Said problem={problemOf(drop.error)} />}
      {open && (
        <form
          className="mt-3"
          onSubmit={(e) => {
            e.preventDefault();
            keep.mutate();
          }}
        >
          <Field
            label={t`Address (endpoint)`}
            type="url"
            required
            autoFocus
            placeholder="https://records.tarnbridge.example/xapi/"
            value={x.endpoint}
            onText={(endpoint) => setX({ ...x, endpoint })}
          />
          <div className="grid gap-x-4 sm:grid-cols-2">
            <Field label={t`Key`} required autoComplete="off" value={x.user} onText={(user) => setX({ ...x, user })} />
            <Field
              label={t`Secret`}
              type="password"
              required
              autoComplete="new-password"
              value={x.password}
              onText={(password) => setX({ ...x, password })}
            />
          </div>
          <p className="mb-3 text-slate">
            {t`Learners appear by a number, or as their learning platform knows them; never by name.`}
          </p>
          {keep.error && <Said problem={problemOf(keep.error)} />}
          <div className="mt-3 flex justify-end gap-2">
            <Button type="button" onClick={() => setOpen(false)}>
              {t`Cancel`}
            </Button>
            <Button kind="main" type="submit" disabled={keep.isPending}>
              {t`Start sending`}
            </Button>
          </div>
        </form>
      )}
    </section>
  );
}
