import { useState, type FormEvent } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, problemOf } from "../api/client";
import type { Me, Problem } from "../api/types";
import { Button } from "../kit/Button";
import { tell } from "../kit/notices";
import { Said } from "../kit/Said";
import { Field, passwordHint } from "../kit/LabelledField";

const section = "rounded-(--radius) border border-line bg-paper px-5 py-4";

/** One's own page: name, password, sessions. */
export function Account({ me }: { me: Me }) {
  return (
    <div className="min-h-full">
      <header className="flex min-h-12 flex-wrap items-center gap-x-3 border-b border-line bg-paper px-4">
        <Link to="/" className="text-slate hover:text-ink">
          Shelf /
        </Link>
        <h1 className="text-lg">Your account</h1>
        <span className="text-slate">{me.email}</span>
      </header>
      <main className="mx-auto flex max-w-lg flex-col gap-4 px-4 py-6">
        <Name me={me} />
        {me.password ? (
          <Password />
        ) : (
          <section className={section}>
            <h2 className="mb-1 text-base">Password</h2>
            <p className="text-slate">You have none here: you sign in with your organisation’s account.</p>
          </section>
        )}
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
      tell("Name saved.");
    });
  };
  return (
    <form aria-label="Name" className={section} onSubmit={save}>
      <h2 className="mb-3 text-base">Name</h2>
      <Field
        label="Your name"
        autoComplete="name"
        required
        maxLength={200}
        value={name}
        onText={setName}
        hint="Others in your workspaces see it beside what you change."
      />
      {said}
      <Button type="submit" disabled={busy || name.trim() === me.name}>
        Save name
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
      tell("Password saved. You are signed out everywhere else.");
    });
  };
  return (
    <form aria-label="Password" className={section} onSubmit={save}>
      <h2 className="mb-3 text-base">Password</h2>
      <Field
        label="Current password"
        type="password"
        autoComplete="current-password"
        required
        value={old}
        onText={setOld}
      />
      <Field
        label="New password"
        type="password"
        autoComplete="new-password"
        required
        value={fresh}
        onText={setFresh}
        hint={passwordHint}
      />
      {said && <div className="mb-3">{said}</div>}
      <Button type="submit" disabled={busy || !old || !fresh}>
        Save password
      </Button>
    </form>
  );
}

function Sessions() {
  const { busy, run, said } = useAsking();
  return (
    <section aria-label="Sessions" className={section}>
      <h2 className="mb-1 text-base">Other devices</h2>
      <p className="mb-3 text-slate">Ends every session of yours but this one, as when you forgot to sign out.</p>
      {said}
      <Button
        disabled={busy}
        onClick={() =>
          void run(async () => {
            await ask(api.DELETE("/api/me/sessions"));
            tell("You are signed out everywhere else.");
          })
        }
      >
        Sign out everywhere else
      </Button>
    </section>
  );
}
