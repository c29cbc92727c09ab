import { useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { FileUp, Volume2 } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import { api, ask } from "../../api/client";
import { Button } from "../../kit/Button";
import { FilePick } from "../../kit/FilePick";
import { Dialog } from "../../kit/Dialog";
import { More } from "../../kit/More";
import { mediaURL } from "../../board/mediaURL";
import { nameOfFile, uploadAndTell } from "../../kit/upload";
import { sizeOf, takeUploaded } from "../model/files";
import { isDrawing, takeNamedParts, targetsOfNamedParts } from "../content/svgParts";
import { useDraft, useDraftStore } from "../model/draft";
import { MediumDetails } from "./MediumDetails";

/** So many are drawn at first, and more at the end of the list. */
const page = 60;

/** Everything uploaded in the workspace: found, used again, described. */
export function MediaDialog() {
  const store = useDraftStore();
  const queries = useQueryClient();
  const { doc, selection } = useDraft((s) => s);
  const [find, setFind] = useState("");
  const [chosen, setChosen] = useState<string>();
  const [shown, setShown] = useState(page);
  const media = useQuery({ queryKey: ["media"], queryFn: () => ask(api.GET("/api/media")) });
  const words = find.trim().toLowerCase();
  const list = (media.data?.media ?? []).filter((m) =>
    `${m.name} ${m.licence} ${m.source} ${m.usedIn.map((u) => u.title).join(" ")}`.toLowerCase().includes(words),
  );
  const m = media.data?.media.find((x) => x.id === chosen);
  const close = () => store.setState({ asking: "" });
  const sound = m?.type.startsWith("audio/");
  const items = selection.items.length;
  const picturing = selection.scenery.filter((id) => doc.scenery.find((s) => s.id === id)?.type === "picture");

  /** Onto what is selected, else as something new. */
  const use = () => {
    if (!m) return;
    close();
    if (items > 0 || picturing.length > 0) {
      store.getState().change({
        says: sound ? t`use a sound` : t`use a picture`,
        apply: (d) => {
          for (const i of d.items) if (selection.items.includes(i.id)) i[sound ? "sound" : "picture"] = m.id;
          if (!sound) for (const s of d.scenery) if (picturing.includes(s.id)) s.picture = m.id;
        },
      });
      return;
    }
    void takeUploaded(store, t`use from Media`, [{ ...m, name: nameOfFile(m.name) || t`New item` }]);
  };
  const asGround = () => {
    close();
    store
      .getState()
      .change({ says: t`change the picture of the board`, apply: (d) => (d.board.background.picture = m!.id) });
  };
  const asScenery = () => {
    close();
    const size = sizeOf(m!, { w: doc.board.width / 2, h: doc.board.height - 80 });
    void store.getState().edit(t`set a picture on the board`, {
      act: "draw",
      drawing: {
        what: "picture",
        picture: m!.id,
        name: nameOfFile(m!.name),
        frame: {
          x: Math.round((doc.board.width - size.w) / 2),
          y: Math.round((doc.board.height - size.h) / 2),
          ...size,
        },
      },
    });
  };
  return (
    <Dialog open wide onClose={close} title={t`Media`} about={t`Everything uploaded in this workspace.`}>
      <div className="grid gap-5 md:grid-cols-[1fr_18rem]">
        <div>
          <div className="mb-3 flex gap-2">
            <input
              autoFocus
              aria-label={t`Find in Media`}
              placeholder={t`Find by name, licence, source or activity`}
              value={find}
              onChange={(e) => {
                setFind(e.target.value);
                setShown(page);
              }}
              className="h-8 flex-1 rounded-(--radius) border border-line bg-paper px-2"
            />
            <FilePick
              label={t`Files for Media`}
              multiple
              accept="image/*,audio/*"
              onFiles={(files) =>
                void uploadAndTell(files).then(async (kept) => {
                  // A list that is still on its way does not have them.
                  await queries.cancelQueries({ queryKey: ["media"] });
                  await queries.invalidateQueries({ queryKey: ["media"] });
                  setChosen(kept[0]?.id);
                })
              }
            >
              <FileUp size={15} aria-hidden /> {t`Upload`}
            </FilePick>
          </div>
          <ul
            aria-label={t`Media`}
            className="grid max-h-[34vh] grid-cols-[repeat(auto-fill,minmax(92px,1fr))] gap-2 overflow-auto md:max-h-[62vh]"
          >
            {list.slice(0, shown).map((x) => (
              <li key={x.id}>
                <button
                  type="button"
                  aria-pressed={x.id === chosen}
                  onClick={() => setChosen(x.id)}
                  className={`w-full rounded-(--radius) border p-1 ${x.id === chosen ? "border-feather bg-feather-soft" : "border-line"}`}
                >
                  <span className="grid h-16 place-items-center">
                    {x.type.startsWith("audio/") ? (
                      <Volume2 aria-hidden />
                    ) : (
                      <img
                        src={mediaURL(x.id)}
                        alt=""
                        loading="lazy"
                        className="h-16 w-full bg-picture object-contain"
                      />
                    )}
                  </span>
                  <span className="block truncate text-[12px]">{x.name || t`unnamed`}</span>
                </button>
              </li>
            ))}
            {list.length > shown && (
              <li className="col-span-full pb-2">
                <More has loading={false} onMore={() => setShown(shown + page)} />
              </li>
            )}
          </ul>
          {media.data && list.length === 0 && <p className="text-slate">{t`No matches`}</p>}
        </div>
        {m ? (
          <MediumDetails key={m.id} medium={m}>
            <Button kind="main" onClick={use}>
              {items > 0
                ? plural(items, { one: "Use for the selected item", other: "Use for # selected items" })
                : picturing.length > 0
                  ? t`Use for the selected picture`
                  : t`Create item`}
            </Button>
            {!sound && (
              <>
                <Button onClick={asScenery}>{t`Place on board`}</Button>
                <Button onClick={asGround}>{t`Use as background`}</Button>
                {isDrawing(m.type) &&
                  namedParts.map(([label, take]) => (
                    <Button
                      key={label}
                      onClick={() => {
                        close();
                        void take(store, m.id, m.name);
                      }}
                    >
                      {label}
                    </Button>
                  ))}
              </>
            )}
          </MediumDetails>
        ) : (
          <p className="text-slate">{t`Select one to see where it is used.`}</p>
        )}
      </div>
    </Dialog>
  );
}

const namedParts = [
  [t`Create an item per named part`, takeNamedParts],
  [t`Create a target per named part`, targetsOfNamedParts],
] as const;
