import { useState } from "react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { Plug } from "lucide-react";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Connections, Me, Platform } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { Connect } from "./Connect";
import { RecordStore } from "./RecordStore";
import { Sending } from "./Sending";

/** The learning platforms from which people come, and how it stands with the grades that go there. */
export function Platforms({ me }: { me: Me }) {
  const queries = useQueryClient();
  const all = useQuery({
    queryKey: ["platforms"],
    queryFn: () => ask(api.GET("/api/platforms")),
    // A registration arrives from elsewhere, and what is sent goes by itself.
    refetchInterval: 4000,
  });
  const [connecting, setConnecting] = useState(false);
  const [ending, setEnding] = useState<Platform>();
  const took = (now: Connections) => queries.setQueryData(["platforms"], now);
  const keep = useMutation({
    mutationFn: ({ id, name, deployments, confirmed }: Platform) =>
      ask(api.PUT("/api/platforms/{id}", { params: { path: { id } }, body: { name, deployments, confirmed } })),
    onSuccess: took,
  });
  const end = useMutation({
    mutationFn: (p: Platform) => ask(api.DELETE("/api/platforms/{id}", { params: { path: { id: p.id } } })),
    onSuccess: (now) => {
      took(now);
      setEnding(undefined);
    },
  });
  const failed = all.error ?? keep.error;
  return (
    <div className="min-h-full">
      <header className="flex min-h-12 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-paper px-4 py-1">
        <Link to="/" className="text-slate hover:text-ink">
          {t`Shelf /`}
        </Link>
        <h1 className="text-lg">{t`Platforms`}</h1>
        <span className="text-slate">{me.workspace}</span>
        <Button kind="main" className="ml-auto" disabled={!all.data?.ready} onClick={() => setConnecting(true)}>
          <Plug size={16} aria-hidden /> {t`Connect…`}
        </Button>
      </header>
      <main className="mx-auto flex max-w-4xl flex-col gap-6 px-4 py-6">
        <p className="text-slate">
          {t`Learning platforms from which learners come by LTI 1.3. Teachers there choose released activities for their courses; scores go to the platform’s gradebook. The answer key stays here.`}
        </p>
        {failed && <Said problem={problemOf(failed)} />}
        {all.data && !all.data.ready && (
          <p role="status" className="rounded-(--radius) bg-mist px-3 py-2">
            {t`Platforms can’t be connected yet: whoever runs Keen Magpie for you has to start it with a secret file first (--secret-file).`}
          </p>
        )}
        {all.data?.ready && all.data.platforms.length === 0 && (
          <p className="rounded-(--radius) border border-dashed border-edge px-4 py-8 text-center text-slate">
            {t`No platform is connected yet. Press Connect… and give its administrator the address.`}
          </p>
        )}
        {all.data?.platforms.map((p) => (
          <One
            key={p.id}
            platform={p}
            onKeep={(more) => keep.mutate({ ...p, ...more })}
            onEnd={() => setEnding(p)}
            busy={keep.isPending}
          />
        ))}
        {all.data?.ready && <RecordStore now={all.data} onChanged={took} />}
        {all.data && <Sending now={all.data} onChanged={took} />}
      </main>
      {connecting && all.data && <Connect now={all.data} onClose={() => setConnecting(false)} onConnected={took} />}
      <Dialog
        open={!!ending}
        busy={end.isPending}
        onClose={() => setEnding(undefined)}
        title={t`End the connection with ${ending?.name ?? ""}?`}
        about={t`Its courses no longer open anything here, and no scores are sent any more. What learners did stays in the outcomes.`}
      >
        {end.error && <Said problem={problemOf(end.error)} />}
        <div className="mt-2 flex justify-end gap-2">
          <Button onClick={() => setEnding(undefined)}>{t`Cancel`}</Button>
          <Button kind="main" onClick={() => ending && end.mutate(ending)}>
            {t`End connection`}
          </Button>
        </div>
      </Dialog>
    </div>
  );
}

type OneProps = {
  platform: Platform;
  busy: boolean;
  onKeep: (more: Partial<Platform>) => void;
  onEnd: () => void;
};

function One({ platform: p, busy, onKeep, onEnd }: OneProps) {
  const [text, setText] = useState(p.deployments.join(" "));
  const list = text.split(/\s+/).filter(Boolean);
  const changed = list.join(" ") !== p.deployments.join(" ");
  return (
    <section
      aria-label={p.name}
      className={`rounded-(--radius) border bg-paper px-4 py-3 ${p.confirmed ? "border-line" : "border-feather"}`}
    >
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">{p.name}</h2>
        <span className="mr-auto text-slate [overflow-wrap:anywhere]">{p.issuer}</span>
        {!p.confirmed && (
          <Button kind="main" disabled={busy} onClick={() => onKeep({ confirmed: true })}>
            {t`Confirm`}
          </Button>
        )}
        <Button kind="quiet" onClick={onEnd}>
          {t`End…`}
        </Button>
      </div>
      {!p.confirmed && (
        <p role="status" className="mt-1">
          {t`It has just registered itself. Nobody can come from it until you confirm that it is the right platform.`}
        </p>
      )}
      <dl className="mt-2 grid grid-cols-[auto_minmax(0,1fr)] items-center gap-x-4 gap-y-1">
        <dt className="text-slate">{t`Client ID`}</dt>
        <dd className="[overflow-wrap:anywhere]">{p.clientId}</dd>
        <dt className="text-slate">
          <label htmlFor={`d-${p.id}`}>{t`Deployments`}</label>
        </dt>
        <dd className="flex gap-2">
          <input
            id={`d-${p.id}`}
            value={text}
            placeholder={t`the first one that is used`}
            onChange={(e) => setText(e.target.value)}
            className="h-8 min-w-0 flex-1 rounded-(--radius) border border-edge bg-paper px-2"
          />
          {changed && (
            <Button disabled={busy} onClick={() => onKeep({ deployments: list })}>
              {t`Keep`}
            </Button>
          )}
        </dd>
      </dl>
    </section>
  );
}
