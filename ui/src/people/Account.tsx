import { useState, type FormEvent } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me, Problem } from "../api/types";
import { Button } from "../kit/Button";
import { tell } from "../kit/notices";
import { Said } from "../kit/Said";
import { Field, passwordHint } from "../kit/LabelledField";
import { Passkeys } from "./Passkeys";
import { moment } from "../words/figures";

const section = "rounded-(--radius) border border-line bg-paper px-5 py-4";

/** One's own page: name, password, sessions. */
export function Account({ me }: { me: Me }) {
  return (
    <div className="min-h-full">
      <header className="flex min-h-12 flex-wrap items-center gap-x-3 border-b border-line bg-paper px-4">
        <Link to="/" className="text-slate hover:text-ink">
          {t`Shelf /`}
        </Link>
        <h1 className="text-lg">{t`Your account`}</h1>
        <span className="text-slate">{me.email}</span>
      </header>
      <main className="mx-auto flex max-w-lg flex-col gap-4 px-4 py-6">
        <Name me={me} />
        {me.password ? (
          <Password />
        ) : (
          <section className={section}>
            <h2 className="mb-1 text-base">{t`Password`}</h2>
            <p className="text-slate">{t`You have none here: you sign in with your organisation’s account.`}</p>
          </section>
        )}
        <Passkeys section={section} />
        <Sessions />
      </main>
    </div>
  );
}

/** Does something that a form asks for, and keeps what went wrong. */
function useAsking() {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const run = async (what: () => Promise<void>) => {
    setBusy(true);
    setProblem(null);
    try {
      await what();
    } catch (error) {
      setProblem(problemOf(error));
    } finally {
      setBusy(false);
    }
  };
  return { busy, run, said: problem && <Said problem={problem} /> };
}

function Name({ me }: { me: Me }) {
  const queries = useQueryClient();
  const [name, setName] = useState(me.name);
  const { busy, run, said } = useAsking();
  const save = (e: FormEvent) => {
    e.preventDefault();
    void run(async () => {
      queries.setQueryData(["me"], await ask(api.PUT("/api/me", { body: { name } })));
      tell(t`Name saved.`);
    });
  };
  return (
    <form aria-label={t`Name`} className={section} onSubmit={save}>
      <h2 className="mb-3 text-base">{t`Name`}</h2>
      <Field
        label={t`Your name`}
        autoComplete="name"
        required
        maxLength={200}
        value={name}
        onText={setName}
        hint={t`Others in your workspaces see it beside what you change.`}
      />
      {said}
      <Button type="submit" disabled={busy || name.trim() === me.name}>
        {t`Save name`}
      </Button>
    </form>
  );
}

function Password() {
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const { busy, run, said } = useAsking();
  const save = (e: FormEvent) => {
    e.preventDefault();
    void run(async () => {
      await ask(api.PUT("/api/me/password", { body: { old, new: fresh } }));
      setOld("");
      setFresh("");
      tell(t`Password saved. You are signed out everywhere else.`);
    });
  };
  return (
    <form aria-label={t`Password`} className={section} onSubmit={save}>
      <h2 className="mb-3 text-base">{t`Password`}</h2>
      <Field
        label={t`Current password`}
        type="password"
        autoComplete="current-password"
        required
        value={old}
        onText={setOld}
      />
      <Field
        label={t`New password`}
        type="password"
        autoComplete="new-password"
        required
        value={fresh}
        onText={setFresh}
        hint={passwordHint}
      />
      {said && <div className="mb-3">{said}</div>}
      <Button type="submit" disabled={busy || !old || !fresh}>
        {t`Save password`}
      </Button>
    </form>
  );
}

/** Where one is signed in, each to be ended. */
function Sessions() {
  const queries = useQueryClient();
  const list = useQuery({ queryKey: ["sessions"], queryFn: () => ask(api.GET("/api/me/sessions")) });
  const { busy, run, said } = useAsking();
  const end = (what: () => Promise<unknown>, says: string) =>
    void run(async () => {
      await what();
      tell(says);
      await queries.invalidateQueries({ queryKey: ["sessions"] });
    });
  const others = list.data?.sessions.filter((s) => !s.here).length ?? 0;
  return (
    <section aria-label={t`Sessions`} className={section}>
      <h2 className="mb-1 text-base">{t`Where you are signed in`}</h2>
      {list.isError && <Said problem={problemOf(list.error)} />}
      <ul className="mb-3">
        {list.data?.sessions.map((s) => (
          <li key={s.id} className="flex items-center gap-3 border-b border-line py-2">
            <span className="min-w-0 flex-1">
              <span className="block font-medium">{s.device}</span>
              <span className="block text-slate">
                {s.place}, {s.here ? t`here, now` : t`last used ${moment(s.seenAt)}`}
              </span>
            </span>
            {!s.here && (
              <Button
                disabled={busy}
                aria-label={t`Sign out ${s.device}`}
                onClick={() =>
                  end(
                    () => ask(api.DELETE("/api/me/sessions/{session}", { params: { path: { session: s.id } } })),
                    t`Signed out: ${s.device}.`,
                  )
                }
              >
                {t`Sign out`}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {said}
      <Button
        disabled={busy || others === 0}
        onClick={() => end(() => ask(api.DELETE("/api/me/sessions")), t`You are signed out everywhere else.`)}
      >
        {t`Sign out everywhere else`}
      </Button>
    </section>
  );
}
