import { Dialog as Radix } from "radix-ui";
import { X } from "lucide-react";
import type { ReactNode } from "react";
import { t } from "@lingui/core/macro";
import { useOpener } from "./opener";

type Props = {
  title: string;
  about?: string;
  open: boolean;
  /** Left out, it can only be left by a choice inside. */
  onClose?: () => void;
  /** What was asked for is under way: nothing in it can be used, and it is not left before the answer. */
  busy?: boolean;
  wide?: boolean;
  /** There is only text in it, which is scrolled by keys. */
  reading?: boolean;
  /** What stays in view below what is scrolled: the choices that end it. */
  foot?: ReactNode;
  children: ReactNode;
};

/** A dialog with a title, one sentence about it, and a way out. */
export function Dialog({ open, onClose, ...rest }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={(o) => !o && !rest.busy && onClose?.()}>
      {open && <Opened onClose={onClose} {...rest} />}
    </Radix.Root>
  );
}

/** Asks what opened it while that still has the focus: a list it was chosen from goes as the portal comes. */
function Opened(p: Omit<Props, "open">) {
  const opener = useOpener(p.busy);
  return (
    <Radix.Portal>
      <Radix.Overlay className="fixed inset-0 z-40 bg-ink/30" />
      <Content opener={opener} {...p} />
    </Radix.Portal>
  );
}

type Inside = Omit<Props, "open"> & { opener: ReturnType<typeof useOpener> };

function Content({ title, about, onClose, busy, wide, reading, foot, opener, children }: Inside) {
  return (
    <Radix.Content
      {...opener}
      className={`fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[calc(100vw-32px)] -translate-x-1/2 flex-col rounded-(--radius) border border-line bg-paper shadow-(--shadow-raised) ${wide ? "max-w-4xl" : "max-w-lg"}`}
      {...(about ? {} : { "aria-describedby": undefined })}
    >
      <div className="flex items-start gap-3 border-b border-line px-5 py-3">
        <div className="flex-1">
          <Radix.Title className="text-lg">{title}</Radix.Title>
          {about && <Radix.Description className="text-slate">{about}</Radix.Description>}
        </div>
        {onClose && (
          <Radix.Close
            disabled={busy}
            className="grid size-8 place-items-center rounded-(--radius) text-slate hover:bg-shade disabled:opacity-50"
            aria-label={t`Close`}
          >
            <X size={18} />
          </Radix.Close>
        )}
      </div>
      <fieldset disabled={busy} className="contents">
        <div data-body tabIndex={reading ? 0 : undefined} className="overflow-auto px-5 py-4">
          {children}
        </div>
        {foot && (
          <div className="flex flex-wrap items-center justify-end gap-x-3 gap-y-2 border-t border-line px-5 py-3">
            {foot}
          </div>
        )}
      </fieldset>
    </Radix.Content>
  );
}
