import { t } from "@lingui/core/macro";
import { Select } from "../../kit/Select";
import { tip } from "../../kit/tip";
import type { Reply } from "../../api/types";
import { useDraft, useDraftStore } from "../model/draft";
import { change, factsOf, moments, situate } from "../model/replies";
import { ConditionList } from "./ConditionList";
import { SaidFields } from "./SaidFields";
import { Checkbox } from "../../kit/Checkbox";

/** One reply in its two parts: the situation in which it is given, and what is said then. */
export function ReplyPane({ reply }: { reply: Reply }) {
  const store = useDraftStore();
  const when = useDraft((s) => s.known?.when[s.doc.replies.findIndex((r) => r.id === reply.id)]?.message);
  return (
    <section
      aria-label={t`Reply`}
      className="flex max-h-[62%] max-lg:max-h-none min-h-64 flex-col overflow-auto border-t-2 border-edge bg-paper"
    >
      <div className="border-b border-line bg-shade px-4 py-2">
        <p className="flex flex-wrap items-center gap-2">
          <Select
            label={t`When`}
            value={reply.moment}
            onPick={(to) =>
              change(store, reply.id, t`change when it is given`, (r) => (r.moment = to as Reply["moment"]))
            }
            className="h-7 rounded-(--radius) border border-line bg-paper px-1"
            options={[...moments.map(([id, title]) => [id, title] as const)]}
          />
          <label className="ml-auto flex items-center gap-1.5" {...tip(t`Otherwise only the first match is shown`)}>
            <Checkbox
              on={reply.also}
              onChange={(on) => change(store, reply.id, t`let others follow`, (r) => (r.also = on))}
            />
            {t`also show later matches`}
          </label>
        </p>
        <ConditionList
          moment={reply.moment}
          list={factsOf(reply)}
          onChange={(facts) => situate(store, reply.id, facts)}
        />
        <p className="mt-1 text-slate" data-when>
          {when}.
        </p>
      </div>
      <SaidFields replies={[reply]} />
    </section>
  );
}
