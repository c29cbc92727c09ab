import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { FileDown, FileUp, ListOrdered, Plus, Table2, Trash2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me, Problem } from "../api/types";
import { Button } from "../kit/Button";
import { FilePick } from "../kit/FilePick";
import { Said } from "../kit/Said";
import { ActivityCard } from "./ActivityCard";
import { Deleted } from "./Deleted";
import { NewActivity } from "./NewActivity";
import { SeriesCards } from "./SeriesCards";
import { ExportQTI } from "./ExportQTI";
import { ImportQTI } from "./ImportQTI";
import { NewFromTable } from "./NewFromTable";
import { More } from "../kit/More";
import { tip } from "../kit/tip";
import { useShelf } from "./useShelf";
import { Workspaces } from "./Workspaces";
import { address, goTo } from "../api/address";

const largest = 64 * 1024 * 1024;

/** The first view: everything in the workspace. */
export function Shelf({ me }: { me: Me }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [making, setMaking] = useState<"" | "kind" | "table" | "deleted" | "qti">("");
  const [qti, setQTI] = useState<File>();
  const [find, setFind] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const shelf = useShelf(find);
  const designer = me.role === "designer";

  const signOut = async () => {
    await ask(api.DELETE("/api/session"));
    queries.clear();
    goTo("/");
  };

  const newSeries = async () => {
    try {
      const made = await ask(api.POST("/api/series", { body: { title: t`New series` } }));
      await queries.invalidateQueries({ queryKey: ["series-list"] });
      void navigate(`/series/${made.id}`);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };

  const importBundle = async (chosen: File | undefined) => {
    if (!chosen) return;
    setProblem(null);
    if (/\.xml$/i.test(chosen.name)) {
      setQTI(chosen);
      return;
    }
    try {
      if (chosen.size > largest) {
        const detail = t`${chosen.name} is larger than the 64 MB limit. Nothing was imported.`;
        setProblem({ status: 413, title: "", code: "too-large", detail });
        return;
      }
      const made = await ask(
        api.POST("/api/bundles", {
          body: chosen as never,
          bodySerializer: (b) => b as never,
          headers: { "Content-Type": "application/zip" },
        }),
      );
      await queries.invalidateQueries({ queryKey: ["shelf"] });
      void navigate(`/${made.series ? "series" : "activity"}/${made.id}`);
    } catch (error) {
      if (problemOf(error).code === "qti") setQTI(chosen);
      else setProblem(problemOf(error));
    }
  };

  return (
    <div className="min-h-full">
      <header className="flex min-h-12 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-paper px-4 py-1">
        <img src={address("/magpie.svg")} alt="" className="size-6" />
        <h1 className="text-lg">{t`Shelf`}</h1>
        <Workspaces me={me} />
        <input
          aria-label={t`Find on the shelf`}
          placeholder={t`Search activities`}
          value={find}
          onChange={(e) => setFind(e.target.value)}
          className="ml-auto h-8 w-44 rounded-(--radius) border border-edge bg-paper px-2"
        />
        <Link to="/account" className="text-slate hover:text-ink" {...tip(t`Your account: name, password`)}>
          {me.name}
        </Link>
        <Button kind="quiet" onClick={signOut}>
          {t`Sign out`}
        </Button>
      </header>
      <main className="mx-auto max-w-6xl px-4 py-6">
        {designer && (
          <div className="mb-5 flex flex-wrap gap-2">
            <Button kind="main" onClick={() => setMaking("kind")}>
              <Plus size={16} aria-hidden /> {t`New activity`}
            </Button>
            <Button onClick={() => setMaking("table")}>
              <Table2 size={16} aria-hidden /> {t`New sorting activity from a table`}
            </Button>
            <Button onClick={() => void newSeries()}>
              <ListOrdered size={16} aria-hidden /> {t`New series`}
            </Button>
            <FilePick
              label={t`File to import`}
              accept=".zip,.xml,application/zip,application/xml,text/xml"
              onFiles={([file]) => void importBundle(file)}
            >
              <FileUp size={16} aria-hidden /> {t`Import (.zip, QTI)`}
            </FilePick>
            <Button kind="quiet" onClick={() => setMaking("qti")}>
              <FileDown size={16} aria-hidden /> {t`Export as QTI…`}
            </Button>
            <Button kind="quiet" onClick={() => setMaking("deleted")}>
              <Trash2 size={16} aria-hidden /> {t`Recently deleted`}
            </Button>
          </div>
        )}
        {(problem || shelf.isError) && (
          <div className="mb-5">
            <Said problem={problem ?? problemOf(shelf.error)} />
          </div>
        )}
        {shelf.data?.length === 0 && (
          <p className="rounded-(--radius) border border-line bg-paper p-6 text-slate">
            {find.trim()
              ? t`No activity has this in its title or kind.`
              : t`No activities yet. Create one, or paste two spreadsheet columns (items, and where they belong) to make a sorting activity.`}
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-4">
          {shelf.data?.map((a) => (
            <ActivityCard key={a.id} draft={a} me={me} onProblem={setProblem} />
          ))}
        </ul>
        <More has={shelf.hasNextPage} loading={shelf.isFetchingNextPage} onMore={shelf.fetchNextPage} />
        {shelf.data && !shelf.hasNextPage && <SeriesCards me={me} find={find} onProblem={setProblem} />}
      </main>
      <NewActivity open={making === "kind"} onClose={() => setMaking("")} />
      {qti && <ImportQTI file={qti} onClose={() => setQTI(undefined)} />}
      <NewFromTable open={making === "table"} onClose={() => setMaking("")} />
      {making === "qti" && <ExportQTI onClose={() => setMaking("")} />}
      <Deleted open={making === "deleted"} onClose={() => setMaking("")} />
    </div>
  );
}
