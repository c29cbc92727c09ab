import { useMutation } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Invitation } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { roleOf } from "./roles";
import { day } from "../words/figures";

/** Invitations that nobody has used yet. */
export function Invitations({ list, onChanged }: { list: Invitation[]; onChanged: () => unknown }) {
  const withdraw = useMutation({
    mutationFn: (id: string) => ask(api.DELETE("/api/people/invitations/{id}", { params: { path: { id } } })),
    onSettled: () => void onChanged(),
  });
  return (
    <section aria-label={t`Open invitations`}>
      <h2 className="mb-2 text-base">{t`Open invitations`}</h2>
      {withdraw.error && <Said problem={problemOf(withdraw.error)} />}
      {list.length === 0 ? (
        <p className="text-slate">{t`None. Invite somebody, and send them the link.`}</p>
      ) : (
        <ul className="rounded-(--radius) border border-line bg-paper">
          {list.map((i) => (
            <li
              key={i.id}
              className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2 last:border-0"
            >
              <span className="font-medium">{i.email || t`Anyone with the link`}</span>
              <span>{roleOf(i).title}</span>
              <span className="text-slate">{t`from ${i.madeBy}, until ${day(i.until)}`}</span>
              <Button className="ml-auto" onClick={() => withdraw.mutate(i.id)} disabled={withdraw.isPending}>
                {t`Revoke`}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
