import { useQueryClient } from "@tanstack/react-query";
import { Ellipsis } from "lucide-react";
import { Link } from "react-router";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me, Problem, SeriesCard } from "../api/types";
import { Menu, MenuItem } from "../kit/Menu";
import { Miniature } from "../board/Miniature";
import { More } from "../kit/More";
import { useSeriesShelf } from "./useShelf";

type Props = { me: Me; find: string; onProblem: (p: Problem) => void };

/** The series on the shelf, each with the boards that it goes through. */
export function SeriesCards({ me, find, onProblem }: Props) {
  const series = useSeriesShelf(find);
  const list = series.data ?? [];
  if (list.length === 0) return null;
  return (
    <>
      <h2 className="mt-8 mb-3 text-lg">{t`Series`}</h2>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(320px,1fr))] gap-4">
        {list.map((s) => (
          <OneSeries key={s.id} series={s} me={me} onProblem={onProblem} />
        ))}
      </ul>
      <More has={series.hasNextPage} loading={series.isFetchingNextPage} onMore={series.fetchNextPage} />
    </>
  );
}

function OneSeries({ series, me, onProblem }: { series: SeriesCard; me: Me; onProblem: (p: Problem) => void }) {
  const queries = useQueryClient();
  const designer = me.role === "designer";
  const at = { params: { path: { id: series.id } } };
  const act = async (asked: Promise<unknown>) => {
    try {
      await asked;
      await queries.invalidateQueries({ queryKey: ["series-list"] });
      await queries.invalidateQueries({ queryKey: ["shelf", "deleted"] });
    } catch (error) {
      onProblem(problemOf(error));
    }
  };
  return (
    <li className="relative rounded-(--radius) border border-line bg-paper shadow-(--shadow-card) hover:border-edge">
      <Link to={me.role === "viewer" ? `/activity/${series.id}/releases` : `/series/${series.id}`} className="block">
        <div className="grid h-36 grid-cols-2 place-items-center gap-1 overflow-hidden rounded-t-(--radius) border-b border-line bg-mist p-2">
          {series.boards.slice(0, 4).map((scene, i) => (
            <Miniature key={i} scene={scene} width={148} height={60} />
          ))}
        </div>
        <div className="p-3 pr-12">
          <h3 className="truncate text-base">{series.title || t`Untitled`}</h3>
          <p className="text-slate">
            {plural(series.length, { one: "# activity", other: "# activities" })},{" "}
            {plural(series.pages, { one: "# page", other: "# pages" })} ·{" "}
            {series.releases === 0 ? t`Draft` : plural(series.releases, { one: "# release", other: "# releases" })}
            {series.sittings > 0 && ` · ${plural(series.sittings, { one: "# sitting", other: "# sittings" })}`}
          </p>
          {series.missing > 0 && (
            <p className="text-ember">
              {plural(series.missing, { one: "# activity no longer exists", other: "# activities no longer exist" })}
            </p>
          )}
        </div>
      </Link>
      <Menu
        align="end"
        trigger={
          <button
            type="button"
            className="absolute right-2 bottom-3 grid size-8 place-items-center rounded-(--radius) text-slate hover:bg-mist"
            aria-label={t`More actions for ${series.title}`}
          >
            <Ellipsis size={18} />
          </button>
        }
      >
        <MenuItem asChild className="block">
          <Link to={`/activity/${series.id}/releases`}>{t`Releases and sittings`}</Link>
        </MenuItem>
        {designer && (
          <>
            <MenuItem onSelect={() => void act(ask(api.POST("/api/series/{id}/copy", at)))}>{t`Duplicate`}</MenuItem>
            <MenuItem className="text-ember" onSelect={() => void act(ask(api.DELETE("/api/activities/{id}", at)))}>
              {t`Delete`}
            </MenuItem>
          </>
        )}
      </Menu>
    </li>
  );
}
