import { memo, type ComponentProps } from "react";
import { DropdownMenu, Toolbar } from "radix-ui";
import {
  AlignStartVertical,
  ChevronDown,
  Copy,
  Grid2x2,
  Layers,
  Replace,
  SlidersHorizontal,
  Trash2,
} from "lucide-react";
import { t } from "@lingui/core/macro";
import { ToolButton } from "../../kit/ToolButton";
import { tip } from "../../kit/tip";
import { arrange, arrows, act as actOn, edges, gaps, group, roles, shapes, stacking } from "../model/acts";
import { partsOf, useDraft, useDraftStore } from "../model/draft";

/** What can be done with what is selected, by the board. */
export const BoardTools = memo(function BoardTools() {
  const store = useDraftStore();
  const selection = useDraft((s) => s.selection);
  const alignTo = useDraft((s) => s.alignTo);
  const parts = partsOf(selection);
  const many = parts.length > 1;
  const act = (says: string, name: string, to?: string) => actOn(store, says, name, to);
  const none = parts.length === 0;
  const targets = useDraft((s) => s.doc.targets);
  const sheet = useDraft((s) => s.sheet);
  return (
    <Toolbar.Root aria-label={t`Selection tools`} className="-mx-2 flex flex-wrap items-center gap-0.5">
      <Menu title={t`Align`} disabled={none} icon={<AlignStartVertical size={15} aria-hidden />}>
        <DropdownMenu.Label className="px-3 py-1 text-[13px] text-slate">{t`to`}</DropdownMenu.Label>
        <DropdownMenu.RadioGroup value={alignTo} onValueChange={(to) => store.setState({ alignTo: to })}>
          {[
            ["selection", t`each other`],
            ["first", t`the first selected`],
            ["board", t`the board`],
          ].map(([value, title]) => (
            <DropdownMenu.RadioItem key={value} value={value!} className={entry} onSelect={(e) => e.preventDefault()}>
              <span className="inline-block w-5">{alignTo === value ? "✓" : ""}</span>
              {title}
            </DropdownMenu.RadioItem>
          ))}
        </DropdownMenu.RadioGroup>
        <Line />
        {edges.map((a) => (
          <Entry key={a.act} title={a.title} onSelect={() => act(t`align ${a.title.toLowerCase()}`, a.act)} />
        ))}
        <Line />
        {gaps.map((a) => (
          <Entry
            key={a.act}
            title={a.title}
            disabled={parts.length < 3}
            onSelect={() => act(a.title.toLowerCase(), a.act)}
          />
        ))}
      </Menu>
      <Menu title={t`Arrange`} disabled={none && targets.length < 2} icon={<Grid2x2 size={15} aria-hidden />}>
        {none && <DropdownMenu.Label className="px-3 py-1 text-[13px] text-slate">{t`all targets`}</DropdownMenu.Label>}
        {shapes.map((a) => (
          <Entry
            key={a.act}
            title={a.title}
            disabled={!many && !none}
            onSelect={() => arrange(store, t`arrange ${a.title.toLowerCase()}`, a.act)}
          />
        ))}
        <Line />
        {arrows.map((a) => (
          <Entry
            key={a.to}
            title={a.title}
            disabled={(none ? targets : selection.targets).length < 2}
            onSelect={() => arrange(store, a.title.toLowerCase(), "arrows", a.to)}
          />
        ))}
        <Line />
        <Entry
          title={t`Match size to the first selected`}
          disabled={!many}
          onSelect={() => act(t`match sizes`, "size")}
        />
        <Entry
          title={selection.targets.length > 1 ? t`Rearrange these targets` : t`Lay all targets out again`}
          onSelect={() => arrange(store, t`rearrange targets`, "layOut")}
        />
      </Menu>
      <Menu title={t`Layer`} disabled={none} icon={<Layers size={15} aria-hidden />}>
        {stacking.map((a) => (
          <Entry key={a.act} title={a.title} onSelect={() => act(a.title.toLowerCase(), a.act)} />
        ))}
        <Line />
        <Entry title={t`Group`} disabled={!many} onSelect={() => group(store, true)} />
        <Entry title={t`Ungroup`} onSelect={() => group(store, false)} />
      </Menu>
      <Menu title={t`Convert to`} disabled={none} icon={<Replace size={15} aria-hidden />}>
        {roles.map((r) => (
          <Entry
            key={r.to}
            title={r.title}
            onSelect={() => act(t`convert to ${r.title.toLowerCase()}`, "recast", r.to)}
          />
        ))}
        <Line />
        <Entry
          title={t`Create a matching piece for each target`}
          disabled={selection.targets.length === 0}
          onSelect={() => act(t`create pieces for targets`, "itemsOfTargets")}
        />
        <Entry
          title={t`Create a hidden target under each piece`}
          disabled={selection.items.length + selection.scenery.length === 0}
          onSelect={() => act(t`create targets under pieces`, "targetsUnder")}
        />
      </Menu>
      <Tool
        className={sheet ? "bg-feather-soft" : ""}
        aria-pressed={sheet}
        {...tip(t`All details of the selection (Alt+Enter)`)}
        onClick={() => store.setState({ sheet: !sheet })}
      >
        <SlidersHorizontal size={15} aria-hidden /> {t`Details`}
      </Tool>
      <Tool
        aria-label={t`Duplicate`}
        {...tip(t`Duplicate (Ctrl+D)`)}
        disabled={none}
        onClick={() => act("duplicate", "duplicate")}
      >
        <Copy size={15} aria-hidden />
      </Tool>
      <Tool aria-label={t`Delete`} {...tip(t`Delete (Del)`)} disabled={none} onClick={() => act("delete", "remove")}>
        <Trash2 size={15} aria-hidden />
      </Tool>
    </Toolbar.Root>
  );
});

function Tool({ className = "", ...rest }: ComponentProps<typeof ToolButton>) {
  return <ToolButton kind="quiet" className={`px-1.5 ${className}`} {...rest} />;
}

const entry =
  "flex cursor-default items-center rounded-sm px-3 py-1 outline-none data-[disabled]:opacity-40 data-[highlighted]:bg-feather-soft";

function Entry({ title, disabled, onSelect }: { title: string; disabled?: boolean; onSelect: () => void }) {
  return (
    <DropdownMenu.Item className={entry} disabled={disabled} onSelect={onSelect}>
      {title}
    </DropdownMenu.Item>
  );
}

const Line = () => <DropdownMenu.Separator className="my-1 border-t border-line" />;

type MenuProps = { title: string; disabled: boolean; icon: React.ReactNode; children: React.ReactNode };

function Menu({ title, disabled, icon, children }: MenuProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Tool disabled={disabled}>
          {icon} {title} <ChevronDown size={13} aria-hidden />
        </Tool>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          className="z-50 min-w-44 rounded-(--radius) border border-line bg-paper p-1 shadow-(--shadow-raised)"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
