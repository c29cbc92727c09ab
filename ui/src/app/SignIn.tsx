import { useState, type FormEvent } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { api, ask, problemOf } from "../api/client";
import type { Problem } from "../api/types";
import { Button } from "../shared/Button";
import { Said } from "../shared/Said";

export function SignIn() {
  const queries = useQueryClient();
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);

  const signIn = async (e: FormEvent) => {
    e.preventDefault();
    setBusy(true);
    try {
      const me = await ask(api.POST("/api/session", { body: { email, password } }));
      // Nothing of whoever was here before stays; the view that waits for "me" goes on.
      queries.removeQueries({ predicate: (q) => q.queryKey[0] !== "me" });
      queries.setQueryData(["me"], me);
    } catch (error) {
      setProblem(problemOf(error));
      setBusy(false);
    }
  };

  const field = "mt-1 mb-4 h-10 w-full rounded-(--radius) border border-edge bg-paper px-3";
  return (
    <main className="grid min-h-full place-items-center p-4">
      <form
        onSubmit={signIn}
        className="w-full max-w-sm rounded-(--radius) border border-line bg-paper p-6 shadow-(--shadow-card)"
      >
        <div className="mb-4 flex items-center gap-3">
          <img src="/magpie.svg" alt="" className="size-9" />
          <h1 className="text-2xl">Keen Magpie</h1>
        </div>
        <label className="block font-medium" htmlFor="email">
          Email
        </label>
        <input
          id="email"
          type="email"
          required
          autoComplete="username"
          autoFocus
          value={email}
          onChange={(e) => setEmail(e.target.value)}
          className={field}
        />
        <label className="block font-medium" htmlFor="password">
          Password
        </label>
        <input
          id="password"
          type="password"
          required
          autoComplete="current-password"
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
          Sign in
        </Button>
      </form>
    </main>
  );
}
