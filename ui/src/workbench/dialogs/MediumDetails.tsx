import { useEffect, useRef, useState, type ReactNode } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../../api/client";
import type { Medium, Problem } from "../../api/types";
import { Button } from "../../kit/Button";
import { Said } from "../../kit/Said";
import { tip } from "../../kit/tip";
import { TypedInput } from "../../kit/TypedInput";
import { useTurns } from "../../kit/useTurns";
import { mediaURL } from "../../board/mediaURL";

/** What is known of a medium, and where it is used. */
export function MediumDetails({ medium: m, children }: { medium: Medium; children: ReactNode }) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem>();
  const latest = useRef(m);
  useEffect(() => void (latest.current = m), [m]);
  const inTurn = useTurns();
  /** Says more of it as it is when its turn comes: of two quick changes none undoes the other. */
  const describe = (change: Partial<Medium>) =>
    inTurn(async () => {
      const next = { ...latest.current, ...change };
      const { name, licence, source } = next;
      try {
        await ask(api.PUT("/api/media/{id}", { params: { path: { id: m.id } }, body: { name, licence, source } }));
        latest.current = next;
        await queries.invalidateQueries({ queryKey: ["media"] });
        setProblem(undefined);
      } catch (error) {
        setProblem(problemOf(error));
      }
    });
  const drop = async () => {
    try {
      await ask(api.DELETE("/api/media/{id}", { params: { path: { id: m.id } } }));
      await queries.invalidateQueries({ queryKey: ["media"] });
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  const field = (label: string, key: "name" | "licence" | "source") => (
    <label className="block">
      <span className="text-[13px] text-slate">{label}</span>
      <TypedInput
        label={label}
        value={m[key]}
        maxLength={200}
        onDone={(text) => void describe({ [key]: text })}
        className="h-8 w-full"
      />
    </label>
  );
  return (
    <section aria-label={t`Details`} className="flex flex-col gap-2">
      {m.type.startsWith("audio/") ? (
        <audio controls src={mediaURL(m.id)} className="w-full" />
      ) : (
        <img
          src={mediaURL(m.id)}
          alt={m.name}
          className="h-32 w-full rounded-(--radius) border border-line bg-picture object-contain"
        />
      )}
      <p className="text-slate">
        {m.width > 0 && `${m.width} × ${m.height} · `}
        {t`${Math.max(1, Math.round(m.bytes / 1024))} KB`}
      </p>
      {field(t`Name`, "name")}
      {field(t`Licence`, "licence")}
      {field(t`Source`, "source")}
      <p className="text-slate">
        {m.usedIn.length === 0 ? t`Not used` : t`Used in`}{" "}
        {m.usedIn.map((u, i) => (
          <span key={u.id}>
            {i > 0 && ", "}
            <Link to={`/${u.series ? "series" : "activity"}/${u.id}`} className="text-feather underline">
              {u.title || t`Untitled`}
            </Link>
          </span>
        ))}
      </p>
      {problem && <Said problem={problem} />}
      <div className="mt-auto flex flex-col gap-2">
        {children}
        <Button
          kind="grave"
          disabled={m.usedIn.length > 0}
          {...tip(m.usedIn.length > 0 ? t`Remove it from what uses it first` : t`Releases that use it keep it`)}
          onClick={() => void drop()}
        >
          {t`Delete`}
        </Button>
      </div>
    </section>
  );
}
