import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me } from "../api/types";
import { Said } from "../kit/Said";
import { Log } from "./Log";
import { PrivacyFields } from "./PrivacyFields";
import { Traces } from "./Traces";

/** What the owner of a workspace answers for: who sees names, how long they are kept, deletion, and the log of it. */
export function LearnersData({ me }: { me: Me }) {
  const privacy = useQuery({ queryKey: ["privacy"], queryFn: () => ask(api.GET("/api/privacy")) });
  const section = "rounded-(--radius) border border-line bg-paper px-5 py-4";
  return (
    <div className="min-h-full">
      <header className="flex min-h-12 flex-wrap items-center gap-x-3 border-b border-line bg-paper px-4">
        <Link to="/" className="text-slate hover:text-ink">
          {t`Shelf /`}
        </Link>
        <h1 className="text-lg">{t`Learner data`}</h1>
        <span className="text-slate">{me.workspace}</span>
      </header>
      <main className="mx-auto flex max-w-4xl flex-col gap-4 px-4 py-6">
        {privacy.error && !privacy.data ? (
          <Said problem={problemOf(privacy.error)} />
        ) : (
          <>
            <section aria-label={t`Names`} className={section}>
              {privacy.data && <PrivacyFields privacy={privacy.data} />}
            </section>
            <section aria-label={t`Delete a learner’s data`} className={section}>
              <Traces />
            </section>
            <section aria-label={t`Log`} className={section}>
              <Log />
            </section>
          </>
        )}
      </main>
    </div>
  );
}
