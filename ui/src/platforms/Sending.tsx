import { useMutation } from "@tanstack/react-query";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Connections } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { moment } from "../words/figures";

/** What is still to be sent, what could not be, and why; quiet where all is well. */
export function Sending({ now, onChanged }: { now: Connections; onChanged: (now: Connections) => void }) {
  const again = useMutation({ mutationFn: () => ask(api.POST("/api/outbox")), onSuccess: onChanged });
  if (now.platforms.length === 0 && !now.records && now.waiting + now.refused === 0) return null;
  return (
    <section aria-label={t`On the way`} className="rounded-(--radius) border border-line bg-paper px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">{t`On the way`}</h2>
        <p className="mr-auto text-slate">
          {now.waiting + now.refused === 0
            ? t`Everything has been sent.`
            : t`${now.waiting} waiting, ${now.refused} refused`}
        </p>
        {now.stuck.length > 0 && (
          <Button disabled={again.isPending} onClick={() => again.mutate()}>
            {t`Send again now`}
          </Button>
        )}
      </div>
      {again.error && <Said problem={problemOf(again.error)} />}
      {now.stuck.length > 0 && (
        <table className="mt-2 w-full">
          <thead className="text-left text-slate">
            <tr>
              <th className="py-1 pr-4 font-medium">{t`Since`}</th>
              <th className="pr-4 font-medium">{t`State`}</th>
              <th className="pr-4 font-medium">{t`What`}</th>
              <th className="font-medium">{t`Answer`}</th>
            </tr>
          </thead>
          <tbody>
            {now.stuck.map((s, i) => (
              <tr key={i} className="border-t border-line align-top">
                <td className="py-1 pr-4 whitespace-nowrap">{moment(s.at)}</td>
                <td className="pr-4 whitespace-nowrap">
                  {s.refused
                    ? t`Refused`
                    : plural(s.tries, { one: "Tried once, goes on", other: "Tried # times, goes on" })}
                </td>
                <td className="pr-4">{s.kind === "grade" ? t`Score` : t`Statement`}</td>
                <td className="[overflow-wrap:anywhere]">{s.answer}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
