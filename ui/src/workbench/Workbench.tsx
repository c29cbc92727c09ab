import { useEffect, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Doc, Draft, Me } from "../api/types";
import { whileSettled } from "../document/saver";
import { useSaver } from "../document/useSaver";
import { Said } from "../kit/Said";
import { createDraft, DraftProvider, type DraftStore } from "./model/draft";
import { Known } from "./model/Known";
import { Room } from "./Room";
import { write } from "./model/saving";
import { keepView } from "./model/view";
import { address } from "../api/address";

/** The editor: board left, ledger right, proof below. */
export function Workbench({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const draft = useQuery({
    queryKey: ["draft", id],
    queryFn: () => whileSettled(id, () => ask(api.GET("/api/activities/{id}", { params: { path: { id } } }))),
    gcTime: 0,
    staleTime: Infinity,
  });
  if (draft.isPending) return <p className="p-8 text-slate">{t`Opening…`}</p>;
  if (draft.isError) {
    return (
      <main className="mx-auto max-w-lg p-8">
        <Said problem={problemOf(draft.error)} />
        <a href={address("/")} className="mt-4 inline-block text-feather underline">
          {t`Back to the shelf`}
        </a>
      </main>
    );
  }
  return <Open key={draft.data.id + draft.data.revision} draft={draft.data} me={me} />;
}

/** A draft with its store and its saver, for as long as it is open. */
function Open({ draft, me }: { draft: Draft; me: Me }) {
  const queries = useQueryClient();
  const [store] = useState<DraftStore>(() => createDraft(draft, me.role === "designer"));
  const [asked, setAsked] = useSearchParams();

  // A link can lead to a tab, or to a cell.
  useEffect(() => {
    if (asked.get("tab") === "content") {
      store.setState({ lens: "content" });
      setAsked({}, { replace: true });
    }
    const item = asked.get("item");
    if (!item) return;
    store.setState({ lens: "placing", byItem: false, cellAsked: { item, target: asked.get("target") ?? "" } });
    store.getState().select({ items: [item] });
    setAsked({}, { replace: true });
  }, [store, asked, setAsked]);

  useEffect(() => keepView(store), [store]);
  const saver = useSaver<Doc>({
    store,
    draft,
    write,
    account: me.email,
    form: "activity",
    onLeft: () => void queries.invalidateQueries({ queryKey: ["shelf"] }),
  });

  return (
    <DraftProvider value={store}>
      <Known />
      {saver && <Room saver={saver} me={me} />}
    </DraftProvider>
  );
}
