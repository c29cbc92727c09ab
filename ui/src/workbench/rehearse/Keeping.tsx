import { ChevronDown } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Button } from "../../kit/Button";
import { Menu, MenuItem } from "../../kit/Menu";
import type { Situation } from "../../engine/engine";
import { useDraftStore } from "../model/draft";
import type { Rehearsal } from "./rehearsal";

/** The situation that a rehearsal has come to. */
export function situationOf({ now, moves }: Rehearsal): Situation | undefined {
  if (!now) return undefined;
  const last = now.steps.findLast((s) => s.result !== "rejected");
  const placed = last && ["place", "drop"].includes(last.move.do) && last.target ? last : undefined;
  return {
    targets: Object.fromEntries(Object.entries(now.standing.targets).map(([text, list]) => [text, list ?? []])),
    moment: now.standing.phase === "placing" && placed && moves.length > 0 ? "placed" : "checked",
    attempt: now.standing.attempt,
    piece: placed?.move.piece,
    target: placed?.target,
    result: placed?.result,
  };
}

/** What can be made of the situation that a rehearsal has come to. */
export function Keeping({ rehearsal }: { rehearsal: Rehearsal }) {
  const store = useDraftStore();
  const { now, setting, stop } = rehearsal;
  const situation = situationOf(rehearsal);
  const some = Object.values(situation?.targets ?? {}).some((list) => list.length > 0);
  const reply = () => {
    if (!situation) return;
    store.setState({ lens: "replies", situation: setting ? { ...situation, moment: "checked" } : situation });
    stop();
  };
  if (setting) {
    return (
      <span className="flex items-center gap-3">
        <span className="text-slate">{t`Place pieces as a learner might; then`}</span>
        <Button kind="main" onClick={reply} disabled={!now}>
          {t`Use this situation`}
        </Button>
      </span>
    );
  }
  return (
    <Menu
      align="end"
      trigger={
        <Button disabled={!now || now.steps.length === 0}>
          {t`Save as…`} <ChevronDown size={14} aria-hidden />
        </Button>
      }
    >
      <MenuItem onSelect={reply}>{t`Feedback condition`}</MenuItem>
      <MenuItem
        disabled={!some}
        onSelect={() => {
          store.setState({ demonstrating: true, lens: "placing", shownFirst: situation?.targets });
          stop();
        }}
      >
        {t`Answer key`}
      </MenuItem>
      <MenuItem
        onSelect={() => {
          void store.getState().edit(t`keep a worked example`, {
            act: "keepExample",
            seed: rehearsal.seed,
            moves: rehearsal.moves,
          });
          store.setState({ lens: "marks" });
        }}
      >
        {t`Scoring example`}
      </MenuItem>
    </Menu>
  );
}
