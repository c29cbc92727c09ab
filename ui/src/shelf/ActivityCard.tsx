import { DropdownMenu } from "radix-ui";
import { Ellipsis } from "lucide-react";
import { useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Card, Me, Problem } from "../api/types";
import { Miniature } from "../board/Miniature";
import { tip } from "../kit/tip";
import { address } from "../api/address";
import { kindName } from "./kinds";

type Props = { draft: Card; me: Me; onProblem: (p: Problem) => void };

/** An activity on the shelf, with a true miniature of its board. */
export function ActivityCard({ draft, me, onProblem }: Props) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const designer = me.role === "designer";
  const elsewhere = me.workspaces.filter((w) => !w.here && w.role === "designer");
  /** Does something to the activity, and looks at the shelf again. */
  const act = async (ask: Promise<unknown>) => {
    try {
      await ask;
      await Promise.all(["shelf", "series-list"].map((key) => queries.invalidateQueries({ queryKey: [key] })));
    } catch (error) {
      onProblem(problemOf(error));
    }
  };
  const at = { params: { path: { id: draft.id } } };
  const state = draft.releases === 0 ? t`Draft` : plural(draft.releases, { one: "# release", other: "# releases" });
  const entry = "block cursor-pointer rounded-sm px-3 py-1.5 outline-none data-highlighted:bg-mist";
  return (
    <li className="group relative rounded-(--radius) border border-line bg-paper shadow-(--shadow-card) hover:border-edge">
      <Link to={me.role === "viewer" ? `/activity/${draft.id}/releases` : `/activity/${draft.id}`} className="block">
        <div className="grid h-44 place-items-center overflow-hidden rounded-t-(--radius) border-b border-line bg-mist p-3">
          {draft.scene && <Miniature scene={draft.scene} width={236} height={152} />}
        </div>
        <div className="p-3 pr-12">
          <h2 className="truncate text-base">{draft.title || t`Untitled`}</h2>
          <p className="text-slate">
            {kindName(draft.kind)} · {state}
            {draft.sittings > 0 && ` · ${plural(draft.sittings, { one: "# sitting", other: "# sittings" })}`}
          </p>
        </div>
      </Link>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="absolute right-2 bottom-3 grid size-8 place-items-center rounded-(--radius) text-slate hover:bg-mist"
          aria-label={t`More actions for ${draft.title}`}
        >
          <Ellipsis size={18} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            className="z-50 min-w-44 rounded-(--radius) border border-line bg-paper p-1 shadow-(--shadow-raised)"
          >
            <DropdownMenu.Item asChild className={entry}>
              <Link to={`/activity/${draft.id}/releases`}>{t`Releases and sittings`}</Link>
            </DropdownMenu.Item>
            <DropdownMenu.Item asChild className={entry}>
              <a href={address(`/api/activities/${draft.id}/bundle`)} download>
                {t`Export (.zip)`}
              </a>
            </DropdownMenu.Item>
            {designer && (
              <>
                <DropdownMenu.Item
                  className={entry}
                  onSelect={() => void act(ask(api.POST("/api/activities/{id}/copy", at)))}
                >
                  {t`Duplicate`}
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  className={entry}
                  onSelect={() =>
                    void act(
                      ask(api.POST("/api/series", { body: { title: draft.title, activities: [draft.id] } })).then(
                        (made) => navigate(`/series/${made.id}`),
                      ),
                    )
                  }
                >
                  {t`Start a series with it`}
                </DropdownMenu.Item>
                {elsewhere.map((w) => (
                  <DropdownMenu.Item
                    key={w.id}
                    className={entry}
                    onSelect={() =>
                      void act(ask(api.POST("/api/activities/{id}/move", { ...at, body: { workspace: w.id } })))
                    }
                  >
                    {t`Move to ${w.name}`}
                  </DropdownMenu.Item>
                ))}
                <DropdownMenu.Item
                  className={`${entry} text-ember`}
                  {...tip(t`Can be restored for 30 days`)}
                  onSelect={() => void act(ask(api.DELETE("/api/activities/{id}", at)))}
                >
                  {t`Delete`}
                </DropdownMenu.Item>
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}
