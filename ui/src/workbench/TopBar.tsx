import { memo, useState } from "react";
import { Link } from "react-router";
import { ChevronDown, MessageSquareText, Search } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import type { Me } from "../api/types";
import { SaveState } from "../document/SaveState";
import { Button } from "../kit/Button";
import { Menu, MenuItem } from "../kit/Menu";
import { useComments } from "./dialogs/Comments";
import { retitle } from "./model/changes";
import { useDraft, useDraftStore } from "./model/draft";
import { NameField } from "../kit/NameField";
import { tip } from "../kit/tip";

/** What whoever only looks at an activity may ask, too. */
const looks = [
  ["comments", t`Comments`],
  ["revisions", t`Version history`],
] as const;
const asks = [
  ...looks,
  ["table", t`Import or export a table`],
  ["swap", t`Replace content`],
  ["media", t`Media`],
  ["theme", t`Board theme`],
  ["tags", t`Rename tags`],
] as const;

/** What concerns the whole activity. */
function ActivityMenu({ id }: { id: string }) {
  const store = useDraftStore();
  const mayChange = useDraft((s) => s.mayChange);
  return (
    <Menu
      align="end"
      trigger={
        <Button kind="quiet" className="px-2">
          {t`Activity`} <ChevronDown size={14} aria-hidden />
        </Button>
      }
    >
      {(mayChange ? asks : looks).map(([asking, title]) => (
        <MenuItem key={asking} onSelect={() => store.setState({ asking })}>
          {title}
        </MenuItem>
      ))}
      <MenuItem asChild className="block">
        <Link to={`/activity/${id}/room`}>{t`Present the draft (shared screen)`}</Link>
      </MenuItem>
      {mayChange && <MenuItem onSelect={() => store.setState({ asking: "draftLinks" })}>{t`Preview links`}</MenuItem>}
      <MenuItem asChild className="block lg:hidden">
        <Link to={`/activity/${id}/releases`}>{t`Releases and sittings`}</Link>
      </MenuItem>
    </Menu>
  );
}

/** How many comments nobody has seen to yet, where there are any. */
function OpenComments({ id }: { id: string }) {
  const store = useDraftStore();
  const n = useComments(id).data?.comments.filter((c) => !c.doneBy).length ?? 0;
  if (n === 0) return null;
  return (
    <button
      type="button"
      onClick={() => store.setState({ asking: "comments" })}
      className="flex h-8 shrink-0 items-center gap-1.5 rounded-(--radius) px-2 whitespace-nowrap text-slate hover:bg-shade hover:text-ink"
    >
      <MessageSquareText size={15} aria-hidden /> {plural(n, { one: "# comment", other: "# comments" })}
    </button>
  );
}

export const TopBar = memo(function TopBar({ me }: { me: Me }) {
  const store = useDraftStore();
  const id = useDraft((s) => s.id);
  const title = useDraft((s) => s.doc.title);
  const lens = useDraft((s) => s.lens);
  const [naming, setNaming] = useState(false);
  const [named, setNamed] = useState(false);
  return (
    <header
      data-zone="header"
      className="flex min-h-12 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-paper px-4 max-md:gap-x-2 max-md:py-1.5"
    >
      <Link to="/" className="whitespace-nowrap text-slate hover:text-ink">
        {t`Shelf /`}
      </Link>
      {naming ? (
        <NameField
          label={t`Title`}
          value={title}
          className="h-8 w-64 text-lg"
          onDone={(to) => {
            setNaming(false);
            // By a key, not because something else was pressed, which has the focus then.
            setNamed(document.activeElement !== document.body);
            if (to && to !== title) store.getState().change(retitle(to));
          }}
        />
      ) : (
        <h1 className="min-w-24 truncate text-lg">
          <button
            type="button"
            autoFocus={named}
            {...tip(t`Rename`)}
            onClick={() => setNaming(true)}
            className="font-[inherit]"
          >
            {title || t`Untitled`}
          </button>
        </h1>
      )}
      <SaveState store={store} />
      <button
        type="button"
        onClick={() => store.setState({ asking: "find" })}
        className="ml-auto flex h-8 shrink-0 items-center gap-2 rounded-(--radius) border border-line px-2.5 text-slate hover:bg-shade"
      >
        <Search size={15} aria-hidden /> {t`Find`} <kbd className="text-[13px] max-md:hidden">Ctrl+K</kbd>
      </button>
      <button
        type="button"
        aria-pressed={lens === "play"}
        onClick={() => store.setState({ lens: lens === "play" ? "placing" : "play" })}
        className={`shrink-0 rounded-(--radius) px-2 py-1 whitespace-nowrap ${lens === "play" ? "bg-feather-soft font-semibold text-ink" : "text-slate hover:bg-shade hover:text-ink"}`}
      >
        {t`Settings`}
        <span className="max-md:hidden"> {t`for learners`}</span>
      </button>
      <OpenComments id={id} />
      <ActivityMenu id={id} />
      <Link to={`/activity/${id}/releases`} className="whitespace-nowrap text-slate hover:text-ink max-lg:hidden">
        {t`Releases and sittings`}
      </Link>
      {me.role === "designer" && (
        <Button kind="main" onClick={() => store.setState({ asking: "release" })}>
          {t`Release…`}
        </Button>
      )}
    </header>
  );
});
