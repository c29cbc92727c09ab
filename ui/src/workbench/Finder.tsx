import { Command } from "cmdk";
import { Dialog as Radix } from "radix-ui";
import { nameOf } from "./changes";
import { commandsOf } from "./commands";
import { partsOf, selectionOf, useDraft, useDraftStore } from "./draft";

const row =
  "flex cursor-default items-center gap-3 rounded-sm px-3 py-1.5 data-[disabled=true]:opacity-40 data-[selected=true]:bg-feather-soft";

/** Finds any command, item or target by name, and does or selects it. */
export function Finder({ rehearse }: { rehearse: () => void }) {
  const store = useDraftStore();
  const { doc, selection, asking } = useDraft((s) => s);
  const close = () => store.setState({ asking: "" });
  const done = (run: () => void) => {
    close();
    run();
  };
  const count = partsOf(selection).length;
  const commands = commandsOf(store, rehearse);
  const groups = [...new Set(commands.map((c) => c.group))];
  return (
    <Radix.Root open={asking === "find"} onOpenChange={(o) => !o && close()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed top-[10vh] left-1/2 z-50 w-[calc(100vw-32px)] max-w-lg -translate-x-1/2 rounded-(--radius) border border-line bg-paper shadow-(--shadow-raised)"
        >
          <Radix.Title className="sr-only">Find a command, an item or a target</Radix.Title>
          <Command label="Find a command, an item or a target" loop>
            <Command.Input
              autoFocus
              placeholder="A command, an item or a target"
              className="w-full border-b border-line bg-transparent px-4 py-3 outline-none"
            />
            <Command.List className="max-h-[56vh] overflow-auto p-1.5">
              <Command.Empty className="px-3 py-4 text-slate">Nothing is called that.</Command.Empty>
              {groups.map((g) => (
                <Command.Group key={g} heading={<span className="px-3 text-[13px] text-slate">{g}</span>}>
                  {commands
                    .filter((c) => c.group === g)
                    .map((c) => (
                      <Command.Item
                        key={c.title}
                        value={c.title}
                        disabled={(c.needs ?? 0) > count}
                        onSelect={() => done(c.run)}
                        className={row}
                      >
                        <span className="flex-1">{c.title}</span>
                        {c.keys && <kbd className="text-[13px] text-slate">{c.keys}</kbd>}
                      </Command.Item>
                    ))}
                </Command.Group>
              ))}
              {(
                [
                  ["Items", "item", doc.items],
                  ["Targets", "target", doc.targets],
                ] as const
              ).map(([heading, kind, parts]) => (
                <Command.Group key={kind} heading={<span className="px-3 text-[13px] text-slate">{heading}</span>}>
                  {parts.map((part) => (
                    <Command.Item
                      key={part.id}
                      value={`${nameOf(part)} ${kind} ${part.id}`}
                      onSelect={() =>
                        done(() => {
                          store.getState().select(selectionOf([{ kind, id: part.id }]));
                          focusPart(kind, part.id);
                        })
                      }
                      className={row}
                    >
                      <span className="flex-1">{nameOf(part)}</span>
                      <span className="text-[13px] text-slate">{kind}</span>
                    </Command.Item>
                  ))}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** Puts the focus on a part of the board once the dialog has given it back. */
function focusPart(kind: string, id: string) {
  setTimeout(() => document.querySelector<HTMLElement>(`[data-part="${kind}-${CSS.escape(id)}"]`)?.focus(), 0);
}
