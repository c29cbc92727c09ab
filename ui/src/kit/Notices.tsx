import { Toast } from "radix-ui";
import { X } from "lucide-react";
import { useStore } from "zustand";
import { t } from "@lingui/core/macro";
import { Button } from "./Button";
import { dismiss, notices } from "./notices";

/** What is told, at the foot of the page, until it was read. F8 goes to it. */
export function Notices() {
  const list = useStore(notices, (s) => s.list);
  return (
    <Toast.Provider label={t`Notice`} swipeDirection="down">
      {list.map((n) => (
        <Toast.Root
          key={n.id}
          duration={n.action ? Infinity : 12_000}
          onOpenChange={(open) => !open && dismiss(n.id)}
          className="flex items-start gap-3 rounded-(--radius) border border-edge bg-paper px-4 py-2.5 shadow-(--shadow-raised)"
        >
          <Toast.Description className="flex-1">{n.text}</Toast.Description>
          {n.action && (
            <Toast.Action asChild altText={n.action.label}>
              <Button onClick={n.action.run}>{n.action.label}</Button>
            </Toast.Action>
          )}
          <Toast.Close
            aria-label={t`Close`}
            className="grid size-7 place-items-center rounded-(--radius) hover:bg-shade"
          >
            <X size={16} />
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport
        label={`${t`Notices`} ({hotkey})`}
        className="fixed bottom-14 left-1/2 z-[60] max-sm:[body:has([role=dialog])_&]:top-1 max-sm:[body:has([role=dialog])_&]:bottom-auto flex w-[min(36rem,calc(100vw-32px))] -translate-x-1/2 flex-col gap-2"
      />
    </Toast.Provider>
  );
}
