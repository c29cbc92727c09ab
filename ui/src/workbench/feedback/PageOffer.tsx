import { useQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask } from "../../api/client";
import type { Reply } from "../../api/types";
import { useDraft } from "../model/draft";
import { ChoiceField } from "../../kit/fields";

type Props = { replies: Reply[]; set: (says: string, apply: (r: Reply) => void) => void };

const pageOf = (r: Reply) => r.offer.find((o) => o.startsWith("page:"))?.slice(5) ?? "";

/** The page to which a reply offers to go back: one of the series that the activity is in. */
export function PageOffer({ replies, set }: Props) {
  const id = useDraft((s) => s.id);
  const pages = useQuery({
    queryKey: ["pages", id],
    queryFn: () => ask(api.GET("/api/activities/{id}/pages", { params: { path: { id } } })),
  });
  const known = pages.data?.pages ?? [];
  const gone = pages.isSuccess
    ? [...new Set(replies.map(pageOf))].filter((p) => p && !known.some((k) => k.id === p))
    : [];
  if (known.length === 0 && gone.length === 0) {
    return (
      <span className="text-slate">
        {t`Pages to read again can be chosen once this activity is in a series with pages.`}
      </span>
    );
  }
  return (
    <span className="w-56">
      <ChoiceField
        label={t`read a page again (in a series)`}
        values={replies.map(pageOf)}
        options={[
          ["", t`none`],
          ...known.map((p): [string, string] => [p.id, `${p.title || t`Untitled page`} (${p.series})`]),
          ...gone.map((p): [string, string] => [p, t`a page that is no longer in a series`]),
        ]}
        onDone={(page) =>
          set(t`change what is offered`, (r) => {
            r.offer = r.offer.filter((o) => !o.startsWith("page:"));
            if (page) r.offer.push(`page:${page}`);
          })
        }
      />
    </span>
  );
}
