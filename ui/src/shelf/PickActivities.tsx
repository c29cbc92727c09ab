import { useState } from "react";
import { t } from "@lingui/core/macro";
import type { Card } from "../api/types";
import { problemOf } from "../api/client";
import { Miniature } from "../board/Miniature";
import { More } from "../kit/More";
import { Said } from "../kit/Said";
import { useShelf } from "./useShelf";
import { kindName } from "./kinds";

type Props = { picked: Card[]; onPick: (picked: Card[]) => void };

/** Activities of the shelf to be picked, in the order in which they are. */
export function PickActivities({ picked, onPick }: Props) {
  const [find, setFind] = useState("");
  const shelf = useShelf(find);
  return (
    <>
      <input
        aria-label={t`Find an activity`}
        placeholder={t`Find`}
        value={find}
        onChange={(e) => setFind(e.target.value)}
        className="mb-3 h-8 w-56 rounded-(--radius) border border-line bg-paper px-2"
      />
      {shelf.isError && <Said problem={problemOf(shelf.error)} />}
      {shelf.data?.length === 0 && <p className="text-slate">{t`No activity has this in its title or kind.`}</p>}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(180px,1fr))] gap-3">
        {shelf.data?.map((c) => {
          const n = picked.findIndex((p) => p.id === c.id);
          return (
            <li key={c.id}>
              <button
                type="button"
                aria-pressed={n >= 0}
                onClick={() => onPick(n >= 0 ? picked.filter((p) => p.id !== c.id) : [...picked, c])}
                className={`relative w-full rounded-(--radius) border p-2 text-left ${n >= 0 ? "border-feather bg-feather-soft" : "border-line hover:border-edge"}`}
              >
                <span className="grid h-24 place-items-center overflow-hidden rounded-sm bg-mist">
                  {c.scene && <Miniature scene={c.scene} width={150} height={88} />}
                </span>
                <span className="mt-1 block truncate font-semibold">{c.title || t`Untitled`}</span>
                <span className="text-slate">{kindName(c.kind)}</span>
                {n >= 0 && (
                  <span className="absolute top-1 right-1 grid size-6 place-items-center rounded-[50%] bg-feather font-bold text-on-feather">
                    {n + 1}
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
      <More has={shelf.hasNextPage} loading={shelf.isFetchingNextPage} onMore={shelf.fetchNextPage} />
    </>
  );
}
