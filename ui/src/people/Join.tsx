import { useState, type FormEvent } from "react";
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me, Problem, Ticket } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { Field, passwordHint } from "../kit/LabelledField";
import { address, goTo } from "../api/address";
import { useWays, Ways } from "./Ways";
import { Checkbox } from "../kit/Checkbox";
import { day } from "../words/figures";

const may = { designer: t`as a designer`, reviewer: t`as a reviewer`, viewer: t`to see outcomes` } as Record<
  string,
  string
>;

/** What a single-use address leads to: the first workspace, an invitation, or a new password. */
export function Join() {
  const { token = "" } = useParams();
  const ticket = useQuery({
    queryKey: ["ticket", token],
    queryFn: () => ask(api.GET("/api/tickets/{token}", { params: { path: { token } } })),
    staleTime: Infinity, // used, it is known no more
  });
  const me = useQuery({
    queryKey: ["me", "maybe"],
    queryFn: () =>
      ask(api.GET("/api/me")).catch((error: unknown) => {
        if (problemOf(error).status === 401) return null;
        throw error;
      }),
  });
  return (
    <main className="grid min-h-full place-items-center p-4">
      <div className="w-full max-w-md rounded-(--radius) border border-line bg-paper p-6 shadow-(--shadow-card)">
        <div className="mb-4 flex items-center gap-3">
          <img src={address("/magpie.svg")} alt="" className="size-9" />
          <p className="font-heading text-2xl font-semibold">Keen Magpie</p>
        </div>
        {ticket.isError && (
          <>
            <h1 className="mb-2 text-lg">{t`This link can’t be used`}</h1>
            <Said problem={problemOf(ticket.error)} />
            <p className="mt-4">
              <a href={address("/")} className="font-medium text-feather underline">
                {t`Sign in`}
              </a>
            </p>
          </>
        )}
        {ticket.data && !me.isPending && <Form token={token} ticket={ticket.data} me={me.data ?? undefined} />}
      </div>
    </main>
  );
}

const titles = {
  owner: () => t`Set up Keen Magpie`,
  join: (token: Ticket) => t`Join ${token.workspace}`,
  password: () => t`Choose a new password`,
};

function Form({ token, ticket, me }: { token: string; ticket: Ticket; me?: Me }) {
  const [email, setEmail] = useState(ticket.email);
  const [name, setName] = useState("");
  const [workspace, setWorkspace] = useState("");
  const [password, setPassword] = useState("");
  const [has, setHas] = useState(ticket.known); // an account
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const asMe = ticket.kind === "join" && me && (!ticket.email || ticket.email === me.email);
  const ways = useWays();
  const byProvider = ticket.kind === "join" && !asMe;
  const passwords = ways.data?.passwords ?? true;
  const fresh = ticket.kind === "owner" || (ticket.kind === "join" && !has);

  const use = async (e: FormEvent) => {
    e.preventDefault();
    setBusy(true);
    setProblem(null);
    try {
      const body = asMe ? {} : { email, name, workspace, password };
      await ask(api.POST("/api/tickets/{token}", { params: { path: { token } }, body }));
      goTo("/");
    } catch (error) {
      setProblem(problemOf(error));
      setBusy(false);
    }
  };

  return (
    <form onSubmit={use}>
      <h1 className="text-lg">{titles[ticket.kind](ticket)}</h1>
      <p className="mb-4 text-slate">
        {ticket.kind === "owner" &&
          t`You create the first workspace and become its owner. You can then invite others. This link works once.`}
        {ticket.kind === "join" &&
          t`${ticket.madeBy} has invited you ${may[ticket.role] ?? ""}. This link works once, until ${day(ticket.until)}.`}
        {ticket.kind === "password" && t`For ${ticket.email}. You are signed out everywhere else.`}
      </p>
      {byProvider && <Ways verb={t`Join`} ticket={token} />}
      {byProvider && !passwords ? null : asMe ? (
        <p className="mb-4">
          <Trans>
            You are signed in as <b>{me.name}</b> ({me.email}).
          </Trans>
        </p>
      ) : (
        <>
          {ticket.kind === "owner" && (
            <Field
              label={t`Name of the workspace`}
              hint={t`Such as your school or department. You can make more later.`}
              required
              autoFocus
              maxLength={200}
              value={workspace}
              onText={setWorkspace}
            />
          )}
          {ticket.kind !== "password" && (
            <Field
              label={t`Email`}
              type="email"
              autoComplete="username"
              required
              readOnly={!!ticket.email}
              value={email}
              onText={setEmail}
            />
          )}
          {fresh && (
            <Field
              label={t`Your name`}
              autoFocus={ticket.kind === "join"}
              autoComplete="name"
              required
              maxLength={200}
              value={name}
              onText={setName}
              hint={t`Others in the workspace see it beside what you change.`}
            />
          )}
          <Field
            label={ticket.kind === "join" && has ? t`Your password` : t`Password`}
            type="password"
            autoComplete={ticket.kind === "join" && has ? "current-password" : "new-password"}
            required
            value={password}
            onText={setPassword}
            hint={ticket.kind === "join" && has ? t`The one you sign in with.` : passwordHint}
          />
          {ticket.kind === "join" && !ticket.email && (
            <label className="mb-4 flex items-center gap-2">
              <Checkbox on={has} onChange={setHas} /> {t`I have an account here already`}
            </label>
          )}
        </>
      )}
      {problem && (
        <div className="mb-4">
          <Said problem={problem} />
        </div>
      )}
      {(passwords || !byProvider) && (
        <Button kind="main" type="submit" disabled={busy} className="h-10 w-full">
          {{ owner: t`Create workspace`, join: t`Join`, password: t`Save password` }[ticket.kind]}
        </Button>
      )}
    </form>
  );
}
