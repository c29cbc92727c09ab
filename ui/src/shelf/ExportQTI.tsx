import { useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import { address } from "../api/address";
import type { Card } from "../api/types";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { PickActivities } from "./PickActivities";

/** Several activities as one package of QTI, once it is seen what that cannot say. */
export function ExportQTI({ onClose }: { onClose: () => void }) {
  const [picked, setPicked] = useState<Card[]>([]);
  const activities = picked.map((c) => c.id);
  const losses = useQuery({
    queryKey: ["qti-losses", activities],
    enabled: activities.length > 0,
    queryFn: () => ask(api.GET("/api/qti/losses", { params: { query: { activities } } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const list = losses.data?.losses ?? [];
  const ready = activities.length > 0 && losses.isSuccess && !losses.isPlaceholderData;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={t`Export as QTI 3.0`}
      about={t`One package of items, with their answer keys. Drafts are exported as they are now.`}
      foot={
        <>
          {activities.length > 0 && list.length > 0 && (
            <details className="mr-auto max-h-48 basis-full overflow-auto sm:basis-0 sm:grow">
              <summary className="cursor-pointer text-slate">
                {plural(list.length, { one: "# thing it can’t carry", other: "# things it can’t carry" })}
              </summary>
              <ul tabIndex={0} aria-label={t`What QTI cannot carry`} className="mt-1 list-disc pl-6">
                {list.map((l, i) => (
                  <li key={i}>
                    {l.activity && <span className="text-slate">{l.activity}: </span>}
                    {l.message}
                  </li>
                ))}
              </ul>
            </details>
          )}
          <span className="text-slate" role="status">
            {activities.length === 0
              ? t`Pick the activities to export.`
              : t`${plural(activities.length, { one: "# activity", other: "# activities" })} picked`}
          </span>
          {ready && (
            <a
              href={address(`/api/qti/package?activities=${activities.join(",")}`)}
              download
              className="flex h-8 items-center rounded-(--radius) bg-feather px-3 font-semibold text-on-feather"
            >
              {t`Download`}
            </a>
          )}
        </>
      }
    >
      <PickActivities picked={picked} onPick={setPicked} />
      {losses.isError && activities.length > 0 && <Said problem={problemOf(losses.error)} />}
    </Dialog>
  );
}
