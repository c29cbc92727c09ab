import { useState, type FormEvent } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me, Problem } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { address, base, goTo } from "../api/address";
import { Forgotten } from "../people/Forgotten";
import { ByPasskey } from "../people/Passkeys";
import { useWays, Ways } from "../people/Ways";

export function SignIn() {
  const queries = useQueryClient();
  return (
    <main className="grid min-h-full place-items-center p-4">
      <div className="w-full max-w-sm rounded-(--radius) border border-line bg-paper p-6 shadow-(--shadow-card)">
        <div className="mb-4 flex items-center gap-3">
          <img src={address("/magpie.svg")} alt="" className="size-9" />
          <h1 className="text-2xl">Keen Magpie</h1>
        </div>
        <SignInForm
          onDone={(me) => {
            // Nothing of whoever was here before stays; the view that waits for "me" goes on.
            queries.removeQueries({ predicate: (q) => q.queryKey[0] !== "me" });
            queries.setQueryData(["me"], me);
          }}
        />
      </div>
    </main>
  );
}

/** The session is over: one signs in again over what is open, and goes on. */
export function SignInAgain({ me, onDone }: { me: Me; onDone: () => void }) {
  return (
    <Dialog open title={t`Sign in again`} about={t`Your session is over. What is open here is kept.`}>
      <SignInForm
        email={me.email}
        onDone={(now) => {
          // Somebody else finds nothing of what was open.
          if (now.email !== me.email) goTo("/");
          else onDone();
        }}
      />
    </Dialog>
  );
}

function SignInForm({ email: known = "", onDone }: { email?: string; onDone: (me: Me) => void }) {
  const [email, setEmail] = useState(known);
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [forgot, setForgot] = useState(false);

  const signIn = async (e: FormEvent) => {
    e.preventDefault();
    setBusy(true);
    try {
      onDone(await ask(api.POST("/api/session", { body: { email, password } })));
    } catch (error) {
      setProblem(problemOf(error));
      setBusy(false);
    }
  };

  const ways = useWays();
  const here = location.pathname.slice(base.length) + location.search;
  const field = "mt-1 mb-4 h-10 w-full rounded-(--radius) border border-edge bg-paper px-3";
  if (ways.isPending) return null; // which fields there are is known in a moment
  const providers = <Ways to={here}>{ways.data?.passkeys && <ByPasskey onDone={onDone} />}</Ways>;
  if (ways.data && !ways.data.passwords) return providers;
  if (forgot) return <Forgotten email={email} onBack={() => setForgot(false)} />;
  return (
    <form onSubmit={signIn}>
      {providers}
      <label className="block font-medium" htmlFor="email">
        {t`Email`}
      </label>
      <input
        id="email"
        type="email"
        required
        autoComplete="username"
        autoFocus={!known}
        value={email}
        onChange={(e) => setEmail(e.target.value)}
        className={field}
      />
      <label className="block font-medium" htmlFor="password">
        {t`Password`}
      </label>
      <input
        id="password"
        type="password"
        required
        autoComplete="current-password"
        autoFocus={!!known}
        value={password}
        onChange={(e) => setPassword(e.target.value)}
        className={field}
      />
      {problem && (
        <div className="mb-4">
          <Said problem={problem} />
        </div>
      )}
      <Button kind="main" type="submit" disabled={busy} className="h-10 w-full">
        {t`Sign in`}
      </Button>
      {ways.data?.mail && (
        <p className="mt-4">
          <button type="button" onClick={() => setForgot(true)} className="font-medium text-feather underline">
            {t`Forgot your password?`}
          </button>
        </p>
      )}
    </form>
  );
}
