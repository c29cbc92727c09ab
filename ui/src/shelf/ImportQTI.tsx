import { useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Problem, QTIItem, QTINote } from "../api/types";
import { Miniature } from "../board/Miniature";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { Checkbox } from "../kit/Checkbox";

type Props = { file: File; onClose: () => void };

const sent = (file: File) => ({
  body: file as never,
  bodySerializer: (b: unknown) => b as never,
  headers: { "Content-Type": "application/octet-stream" },
});

/** What can be made of a QTI file: boards, right answers, points, and what was left out; chosen ones are made. */
export function ImportQTI({ file, onClose }: Props) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [off, setOff] = useState<number[]>([]);
  const [problem, setProblem] = useState<Problem>();
  const [busy, setBusy] = useState(false);
  const [asked] = useState(() => crypto.getRandomValues(new Uint32Array(2)).join("-"));
  const about = { name: file.name.slice(0, 200), asked };
  const look = useQuery({
    queryKey: ["qti", file.name, file.size, file.lastModified],
    queryFn: ({ signal }) => ask(api.POST("/api/qti/look", { params: { query: about }, ...sent(file), signal })),
    retry: false,
    gcTime: 0,
  });
  const items = look.data?.items ?? [];
  const chosen = items.filter((x) => !off.includes(x.n));
  const make = async () => {
    setBusy(true);
    try {
      setProblem(undefined);
      const query = { ...about, chosen: chosen.map((x) => x.n).join(",") };
      const { activities } = await ask(api.POST("/api/qti", { params: { query }, ...sent(file) }));
      void queries.invalidateQueries({ queryKey: ["shelf"] });
      onClose();
      if (activities.length === 1) void navigate(`/activity/${activities[0]!.id}`);
    } catch (error) {
      setProblem(problemOf(error));
      setBusy(false);
    }
  };
  const left = look.data?.left ?? [];
  return (
    <Dialog
      open
      wide
      busy={busy}
      onClose={onClose}
      title={t`Import QTI`}
      about={file.name}
      foot={
        <>
          {busy && <Reading asked={asked} says={t`Creating the activities…`} />}
          <Button onClick={onClose}>{t`Cancel`}</Button>
          <Button kind="main" disabled={chosen.length === 0} onClick={() => void make()}>
            {chosen.length > 1 ? t`Create ${chosen.length} activities` : t`Create activity`}
          </Button>
        </>
      }
    >
      {look.isPending && <Reading asked={asked} says={t`Reading the file…`} />}
      {look.isError && <Said problem={problemOf(look.error)} />}
      {look.data && items.length === 0 && <p>{t`No activity can be created from this file.`}</p>}
      {items.length > 1 && (
        <div className="mb-3 flex flex-wrap items-center gap-3">
          <p className="mr-auto font-medium">{t`${chosen.length} of ${items.length} chosen`}</p>
          <Button onClick={() => setOff([])}>{t`All`}</Button>
          <Button onClick={() => setOff(items.map((x) => x.n))}>{t`None`}</Button>
        </div>
      )}
      <ul className="flex flex-col gap-2">
        {items.slice(0, 200).map((x) => (
          <li key={x.n}>
            <Item
              item={x}
              on={!off.includes(x.n)}
              onToggle={() => setOff((list) => (list.includes(x.n) ? list.filter((n) => n !== x.n) : [...list, x.n]))}
            />
          </li>
        ))}
      </ul>
      {items.length > 200 && (
        <p className="mt-2 text-slate">{t`${items.length - 200} more are not shown here; they are made as well.`}</p>
      )}
      {left.length > 0 && (
        <section aria-label={t`Left out`} className="mt-4">
          <h3 className="font-semibold">{t`Left out`}</h3>
          <Notes list={left} />
        </section>
      )}
      {problem && <Said problem={problem} />}
    </Dialog>
  );
}

/** How far a file is read: its items, once it is known how many there are. */
function Reading({ asked, says }: { asked: string; says: string }) {
  const at = useQuery({
    queryKey: ["qti-progress", asked],
    queryFn: () => ask(api.GET("/api/qti/progress", { params: { query: { asked } } })),
    refetchInterval: 300,
    gcTime: 0,
    retry: false,
  }).data;
  return (
    <div className="flex items-center gap-3 text-slate">
      <span role="status">{says}</span>
      {at && at.of > 1 && (
        <>
          <progress
            aria-label={says}
            value={at.n}
            max={at.of}
            className="h-2 w-40 appearance-none overflow-hidden rounded-full bg-mist [&::-webkit-progress-bar]:bg-mist [&::-webkit-progress-value]:bg-feather"
          />
          <span className="tabular-nums">{t`${at.n} of ${at.of}`}</span>
        </>
      )}
    </div>
  );
}

type ItemProps = { item: QTIItem; on: boolean; onToggle: () => void };

function Item({ item: x, on, onToggle }: ItemProps) {
  return (
    <div className="flex flex-wrap gap-4 rounded-(--radius) border border-line bg-paper px-3 py-2">
      <label className="flex flex-1 basis-72 cursor-pointer items-start gap-3">
        <Checkbox on={on} onChange={onToggle} className="mt-1" />
        <span className="flex-1">
          <span className="block font-medium">{x.title}</span>
          <span className="block text-slate">
            {plural(x.items, { one: "# item", other: "# items" })},{" "}
            {plural(x.targets, { one: "# target", other: "# targets" })},{" "}
            {plural(Number(x.points), { one: "# point", other: "# points" })}
            {x.ways > 1 && <>, {t`${x.ways} solutions`}</>}
          </span>
          <span className="mt-1 block">
            {x.right.slice(0, 6).map((r) => (
              <span key={r.target} className="block">
                <span className="text-slate">{r.target}:</span> {r.items.join(", ")}
              </span>
            ))}
            {x.right.length > 6 && (
              <span className="block text-slate">{t`and ${x.right.length - 6} more targets`}</span>
            )}
            {x.right.length === 0 && <span className="block text-slate">{t`Nothing is correct there yet.`}</span>}
          </span>
        </span>
      </label>
      <Miniature scene={x.face} width={180} height={130} />
      {x.notes.length > 0 && (
        <div className="basis-full">
          <Notes list={x.notes} />
        </div>
      )}
    </div>
  );
}

function Notes({ list }: { list: QTINote[] }) {
  return (
    <ul className="flex flex-col gap-0.5">
      {list.slice(0, 50).map((n, i) => (
        <li key={i} className="flex gap-3">
          <span className="shrink-0 text-slate">{n.line > 0 ? t`${n.source}, line ${n.line}` : n.source}</span>
          <span>{n.message}</span>
        </li>
      ))}
      {list.length > 50 && <li className="text-slate">{t`and ${list.length - 50} more`}</li>}
    </ul>
  );
}
