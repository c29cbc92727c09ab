import { ChevronDown } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Button } from "../../kit/Button";
import { Menu, MenuItem } from "../../kit/Menu";
import { Sortable } from "../../kit/Sortable";
import { tip } from "../../kit/tip";
import { useDraft, useDraftStore } from "../model/draft";
import { add, moments, moveBy } from "../model/replies";
import { ReplyRow } from "./ReplyRow";

/** All replies by moment, in the order in which they are tried. */
export function AllReplies() {
  const doc = useDraft((s) => s.doc);
  const store = useDraftStore();
  const silent = useDraft((s) => s.covers?.silent.length ?? 0);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
        <NewReply />
        <Button className="h-7 px-2" onClick={() => store.setState({ toRehearse: { moves: [], setting: true } })}>
          {t`From a situation…`}
        </Button>
        <ForTargets />
        <Button
          className="h-7 px-2"
          {...tip(t`One reply for each outcome, and for each when no attempt is left; what is there already stays`)}
          onClick={() => void store.getState().edit(t`add the usual replies`, { act: "startingReplies" })}
        >
          {t`Add default feedback`}
        </Button>
        {silent > 0 && doc.replies.length > 0 && (
          <span className="text-slate">{t`${plural(silent, { one: "# outcome", other: "# outcomes" })} without feedback`}</span>
        )}
      </div>
      <div
        className="min-h-24 flex-1 overflow-auto max-lg:min-h-64 max-lg:flex-none"
        role="group"
        aria-label={t`All feedback`}
      >
        {doc.replies.length === 0 && (
          <p className="px-4 py-4 text-slate">
            <Trans>
              Learners are told only which pieces are correct. <b className="text-ink">Add default feedback</b> makes
              one for each outcome; or set up a situation on the board and say what is told then.
            </Trans>
          </p>
        )}
        {moments.map(([moment, title]) => {
          const own = doc.replies.filter((r) => r.moment === moment);
          if (own.length === 0) return null;
          return (
            <section key={moment} aria-label={t`Feedback: ${title}`}>
              <h2 className="sticky top-0 z-10 border-b border-line bg-shade px-4 py-1 text-[13px] font-semibold text-slate">
                {title}
                {own.length > 1 && <span className="font-normal"> {t`– the first match is shown`}</span>}
              </h2>
              <Sortable
                ids={own.map((r) => r.id)}
                name={(id) => own.find((r) => r.id === id)?.say.text || t`the reply`}
                onMove={(from, to) => store.getState().change(moveBy(doc, own[from]!.id, to - from))}
              >
                <ol>
                  {own.map((r) => (
                    <ReplyRow key={r.id} reply={r} />
                  ))}
                </ol>
              </Sortable>
            </section>
          );
        })}
      </div>
    </>
  );
}

function NewReply() {
  const store = useDraftStore();
  return (
    <Menu
      trigger={
        <Button className="h-7 px-2" kind="main">
          {t`New feedback`} <ChevronDown size={14} aria-hidden />
        </Button>
      }
    >
      {moments.map(([moment, title, more]) => (
        <MenuItem key={moment} onSelect={() => add(store, { moment })}>
          {title} {more && <span className="text-slate">({more})</span>}
        </MenuItem>
      ))}
    </Menu>
  );
}

/** A reply for each combination of which of the selected targets are right. */
function ForTargets() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const selected = useDraft((s) => s.selection.targets);
  const targets = selected.length > 0 ? selected : doc.targets.map((target) => target.id);
  const n = targets.length;
  const chosen = selected.length > 0;
  const of =
    n > 4
      ? t`selected targets`
      : chosen
        ? plural(n, { one: "# selected target", other: "# selected targets" })
        : plural(n, { one: "# target", other: "# targets" });
  return (
    <Button
      className="h-7 px-2"
      disabled={n === 0 || n > 4}
      {...tip(
        n > 4
          ? t`Select up to four targets first`
          : t`Creates ${2 ** n} replies, one for each combination of correct targets`,
      )}
      onClick={() =>
        void store.getState().edit(t`add ${2 ** n} replies`, {
          act: "repliesForTargets",
          parts: { items: [], targets, scenery: [] },
        })
      }
    >
      {t`One per combination of ${of}`}
    </Button>
  );
}
