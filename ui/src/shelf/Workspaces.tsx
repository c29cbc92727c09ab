import { useState } from "react";
import { DropdownMenu } from "radix-ui";
import { ChevronDown } from "lucide-react";
import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { goTo } from "../api/address";

const entry = "flex cursor-default items-center rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-feather-soft";

/** The workspace that one is in, and the way to others. */
export function Workspaces({ me }: { me: Me }) {
  const [founding, setFounding] = useState(false);
  const [name, setName] = useState("");
  // Everything that is shown belongs to the workspace: the page begins anew.
  const go = async (id: string) => {
    await ask(api.PUT("/api/session/workspace", { body: { id } }));
    goTo("/");
  };
  const found = useMutation({
    mutationFn: () => ask(api.POST("/api/workspaces", { body: { name: name.trim() } })),
    onSuccess: () => goTo("/"),
  });
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="flex items-center gap-1 rounded-(--radius) px-1.5 text-slate hover:bg-shade">
          {me.workspace} <ChevronDown size={14} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            className="z-50 min-w-52 rounded-(--radius) border border-line bg-paper p-1 shadow-(--shadow-raised)"
          >
            {me.workspaces.map((w) => (
              <DropdownMenu.Item key={w.id} className={entry} onSelect={() => !w.here && void go(w.id)}>
                <span className="w-5">{w.here ? "✓" : ""}</span>
                {w.name}
              </DropdownMenu.Item>
            ))}
            {me.owner && (
              <>
                <DropdownMenu.Separator className="my-1 border-t border-line" />
                <DropdownMenu.Item asChild className={entry}>
                  <Link to="/people">
                    <span className="w-5" />
                    {t`People`}
                  </Link>
                </DropdownMenu.Item>
                <DropdownMenu.Item asChild className={entry}>
                  <Link to="/platforms">
                    <span className="w-5" />
                    {t`Platforms`}
                  </Link>
                </DropdownMenu.Item>
                <DropdownMenu.Item asChild className={entry}>
                  <Link to="/learners">
                    <span className="w-5" />
                    {t`Learner data`}
                  </Link>
                </DropdownMenu.Item>
              </>
            )}
            {me.role === "designer" && (
              <>
                <DropdownMenu.Separator className="my-1 border-t border-line" />
                <DropdownMenu.Item className={entry} onSelect={() => setFounding(true)}>
                  <span className="w-5" />
                  {t`New workspace…`}
                </DropdownMenu.Item>
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog
        open={founding}
        busy={found.isPending || found.isSuccess}
        onClose={() => {
          setFounding(false);
          found.reset(); // what was refused is not said of the next
        }}
        title={t`New workspace`}
        about={t`You will be the owner.`}
      >
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (name.trim()) found.mutate();
          }}
        >
          <input
            aria-label={t`Name of the workspace`}
            value={name}
            maxLength={200}
            onChange={(e) => setName(e.target.value)}
            className="h-9 flex-1 rounded-(--radius) border border-edge bg-paper px-2"
          />
          <Button kind="main" type="submit" disabled={!name.trim()} className="h-9">
            {t`Create`}
          </Button>
        </form>
        {found.error && <Said problem={problemOf(found.error)} />}
      </Dialog>
    </>
  );
}
