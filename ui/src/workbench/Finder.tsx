import { memo, useRef, useState } from "react";
import { Command, defaultFilter } from "cmdk";
import { Dialog as Radix } from "radix-ui";
import { useNavigate } from "react-router";
import { t } from "@lingui/core/macro";
import type { Item, Target } from "../api/types";
import { nameOf } from "../document/parts";
import { useOpener } from "../kit/opener";
import { commandsOf } from "./commands";
import { partsOf, selectionOf, useDraft, useDraftStore } from "./model/draft";

const row =
  "flex cursor-default items-center gap-3 rounded-sm px-3 py-1.5 data-[disabled=true]:opacity-40 data-[selected=true]:bg-feather-soft";

/** Finds any command, item or target by name, and does or selects it. */
export const Finder = memo(function Finder({ rehearse }: { rehearse: () => void }) {
  const store = useDraftStore();
  const open = useDraft((s) => s.asking === "find");
  return (
    <Radix.Root open={open} onOpenChange={(o) => !o && store.setState({ asking: "" })}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Found rehearse={rehearse} />
      </Radix.Portal>
    </Radix.Root>
  );
});

type Entry = {
  key: string;
  title: string;
  group: string;
  also?: string[];
  keys?: string;
  needs?: number;
  focus?: string;
  run: () => void;
};

/** What is said first counts most: the whole beginning, then a word's, then any letters in their order. */
function rank({ title, also = [] }: Entry, wanted: string): number {
  const text = title.toLowerCase();
  if (text.startsWith(wanted)) return 1;
  if (text.split(/[^\p{L}\p{N}]+/u).some((word) => word.startsWith(wanted))) return 0.7;
  if (also.some((word) => word.startsWith(wanted))) return 0.6;
  return text.includes(wanted) ? 0.4 : defaultFilter(title, wanted) / 5;
}

function Found({ rehearse }: { rehearse: () => void }) {
  const store = useDraftStore();
  const { doc, selection } = useDraft((s) => s);
  const [search, setSearch] = useState("");
  const { onCloseAutoFocus, ...opener } = useOpener();
  const go = useNavigate();
  const next = useRef<string>(undefined);
  const count = partsOf(selection).length;
  const part = (kind: "item" | "target", group: string) => (p: Item | Target) => ({
    key: `${kind} ${p.id}`,
    title: nameOf(p),
    group,
    run: () => {
      store.getState().select(selectionOf([{ kind, id: p.id }]));
      next.current = `[data-part="${kind}-${CSS.escape(p.id)}"]`;
    },
  });
  const all: Entry[] = [
    ...commandsOf(store, { rehearse, go }).map((c) => ({ key: c.title, ...c })),
    ...doc.items.map(part("item", t`Items`)),
    ...doc.targets.map(part("target", t`Targets`)),
  ];
  const wanted = search.trim().toLowerCase();
  const ranked = wanted
    ? all
        .map((entry) => ({ entry, rank: rank(entry, wanted) }))
        .filter((x) => x.rank > 0.01)
        .sort((a, b) => b.rank - a.rank)
        .map((x) => x.entry)
    : all;
  // While something is looked for, the best comes first, whatever its group.
  const groups = wanted ? [""] : [...new Set(all.map((e) => e.group))];
  return (
    <Radix.Content
      aria-describedby={undefined}
      {...opener}
      onCloseAutoFocus={(e) => {
        if (store.getState().crosshair) next.current = "[data-surface]";
        const part = next.current ? document.querySelector<HTMLElement>(next.current) : null;
        if (!part) return onCloseAutoFocus(e);
        e.preventDefault();
        part.focus();
      }}
      className="fixed top-[10vh] left-1/2 z-50 w-[calc(100vw-32px)] max-w-lg -translate-x-1/2 rounded-(--radius) border border-line bg-paper shadow-(--shadow-raised)"
    >
      <Radix.Title className="sr-only">{t`Find a command, an item or a target`}</Radix.Title>
      <Command label={t`Find a command, an item or a target`} loop shouldFilter={false}>
        <Command.Input
          autoFocus
          value={search}
          onValueChange={setSearch}
          placeholder={t`A command, an item or a target`}
          className="w-full border-b border-line bg-transparent px-4 py-3 outline-none"
        />
        <Command.List className="max-h-[56vh] overflow-auto p-1.5">
          <Command.Empty className="px-3 py-4 text-slate">{t`No matches`}</Command.Empty>
          {groups.map((g) => (
            <Command.Group key={g} heading={g && <span className="px-3 text-[13px] text-slate">{g}</span>}>
              {ranked
                .filter((e) => !g || e.group === g)
                .map((e) => (
                  <Command.Item
                    key={e.key}
                    value={e.key}
                    disabled={(e.needs ?? 0) > count}
                    onSelect={() => {
                      store.setState({ asking: "" });
                      next.current = e.focus;
                      e.run();
                    }}
                    className={row}
                  >
                    <span className="flex-1">{e.title}</span>
                    {wanted && <span className="text-[13px] text-slate">{e.group}</span>}
                    {e.keys && <kbd className="text-[13px] text-slate">{e.keys}</kbd>}
                  </Command.Item>
                ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
    </Radix.Content>
  );
}
