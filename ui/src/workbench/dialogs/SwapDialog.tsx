import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { ArrowRight, ImagePlus } from "lucide-react";
import { t } from "@lingui/core/macro";
import { api, ask } from "../../api/client";
import type { Doc } from "../../api/types";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { ChoiceField } from "../../kit/fields";
import { FilePick } from "../../kit/FilePick";
import { mediaURL } from "../../board/mediaURL";
import { fromTabs } from "../grid/tabs";
import { nameOfFile, uploadAndTell } from "../../kit/upload";
import { tip } from "../../kit/tip";

import { useDraft, useDraftStore } from "../model/draft";
import type { Face } from "../../engine/engine";

type Row = { words: string; picture: string; fault?: string };

/** Other words and pictures in the same board: places, cells, replies and marks stay. */
export function SwapDialog() {
  const store = useDraftStore();
  const { items, targets } = useDraft((s) => s.doc);
  const [text, setText] = useState("");
  const [pictures, setPictures] = useState<{ id: string; name: string }[]>([]);
  /** How many of the pictures are there, while they are on their way. */
  const [coming, setComing] = useState<{ n: number; of: number }>();
  const [theme, setTheme] = useState("");
  const themes = useQuery({ queryKey: ["themes"], queryFn: () => ask(api.GET("/api/themes")) });
  const media = useQuery({ queryKey: ["media"], queryFn: () => ask(api.GET("/api/media")) });
  const known = new Map([...(media.data?.media ?? []), ...pictures].map((m) => [m.name.toLowerCase(), m.id]));
  const table = text.trim() ? fromTabs(text.replace(/\s+$/, "")) : [];
  // Pictures go to the rows with their names; where none has one, in order.
  const called = (p: { name: string }, words = "") => nameOfFile(p.name).toLowerCase() === words.trim().toLowerCase();
  const byName = pictures.some((p) => table.some((cells) => called(p, cells[0])));
  const strangers = pictures.filter((p) => !table.some((cells) => called(p, cells[0]))).map((p) => p.name);
  const row = (i: number): Row | undefined => {
    const cells = table[i];
    const taken = byName ? pictures.find((p) => called(p, cells?.[0])) : pictures[i];
    if (!cells && !taken) return undefined;
    const file = cells?.[1]?.trim() ?? "";
    const found = file ? known.get(file.toLowerCase()) : taken?.id;
    return {
      words: cells?.[0]?.trim() || nameOfFile(taken?.name ?? file),
      picture: found ?? "",
      fault: file && !found ? t`There is no picture called ${file} in Media` : undefined,
    };
  };
  // Items first, then targets, as the Content lens has them.
  const parts = [
    ...items.map((i) => ({ kind: "item" as const, id: i.id, name: i.name, picture: i.picture, text: i.text })),
    ...targets.map((target) => ({
      kind: "target" as const,
      id: target.id,
      name: target.name,
      picture: "",
      text: target.label.text,
    })),
  ];
  const faults = parts.filter((_, i) => row(i)?.fault).length;
  const many = parts.filter((_, i) => row(i)).length;
  const close = () => store.setState({ asking: "" });
  const takePictures = async (files: File[]) => {
    const at = (n: number) => setComing({ n, of: files.length });
    at(0);
    const kept = await uploadAndTell(files, at);
    setComing(undefined);
    setPictures(kept.map(({ id, file }) => ({ id, name: file.name })));
  };
  const take = () => {
    const faces = parts.flatMap((p, i): Face[] => {
      const r = row(i);
      if (!r) return [];
      return [
        {
          item: p.kind === "item" ? p.id : "",
          target: p.kind === "target" ? p.id : "",
          name: r.words || p.name,
          text: r.picture && !p.text ? "" : r.words,
          picture: r.picture,
          alt: r.picture ? r.words : "",
          sound: "",
          transcript: "",
        },
      ];
    });
    const merge = Symbol();
    const chosen = themes.data?.themes.find((one) => one.theme.name === theme)?.theme;
    store.getState().select({}); // parts go by other ids then
    void store
      .getState()
      .edit(t`replace content`, { act: "swap", faces }, merge)
      .then((made) => {
        if (!made || !chosen) return;
        const apply = (doc: Doc) => void (doc.board.theme = chosen);
        store.getState().change({ says: t`replace content`, merge, apply });
      });
    close();
  };
  return (
    <Dialog
      open
      wide
      onClose={close}
      title={t`Replace content`}
      about={t`One row per item, then one per target, in the order shown: text, then (optional) a picture file name from Media. New names also replace the old ones in feedback, hints, texts and tags.`}
    >
      <div className="grid gap-5 md:grid-cols-2">
        <div className="flex flex-col gap-2">
          <textarea
            autoFocus
            aria-label={t`Rows of the new content`}
            value={text}
            spellCheck={false}
            placeholder={t`Tail light
Headlight	headlight.svg`}
            onChange={(e) => setText(e.target.value)}
            className="h-72 rounded-(--radius) border border-edge bg-paper p-2 font-mono text-[13px] whitespace-pre"
          />
          <div className="flex flex-wrap items-center gap-3">
            <FilePick
              label={t`Pictures of the new content`}
              accept="image/*"
              multiple
              onFiles={(files) => void takePictures(files)}
            >
              <ImagePlus size={16} aria-hidden /> {t`Pictures, one per row`}
            </FilePick>
            <span role="status" className="text-slate tabular-nums">
              {coming && t`${coming.n} of ${coming.of} uploaded`}
            </span>
          </div>
          <ChoiceField
            label={t`Colours and type`}
            values={[theme]}
            options={[
              ["", t`As they are`],
              ...(themes.data?.themes ?? []).map((theme): [string, string] => [
                theme.theme.name,
                theme.theme.name ? t`Theme: ${theme.theme.name}` : t`Theme: unnamed`,
              ]),
            ]}
            onDone={setTheme}
          />
        </div>
        <section aria-label={t`What it does`} className="flex min-h-0 flex-col gap-3">
          <ul
            tabIndex={0}
            aria-label={t`What becomes of each part`}
            className="max-h-[46vh] overflow-auto rounded-(--radius) border border-line"
          >
            {parts.map((p, i) => {
              const r = row(i);
              return (
                <li
                  key={`${p.kind} ${p.id}`}
                  className={`grid grid-cols-[1fr_20px_1fr] items-center gap-2 border-b border-line/60 px-3 py-1 last:border-0 ${i === items.length ? "border-t-2 border-t-line" : ""}`}
                >
                  <span className="flex min-w-0 items-center gap-2">
                    <Thumb picture={p.picture} />
                    <span className="truncate">{p.name}</span>
                  </span>
                  <ArrowRight size={15} className="text-slate" aria-label={t`becomes`} />
                  <span className="flex min-w-0 items-center gap-2">
                    {r ? (
                      <>
                        <Thumb picture={r.picture} />
                        <span className={`truncate ${r.fault ? "text-ember" : ""}`} {...tip(r.fault)}>
                          {r.fault ?? r.words}
                        </span>
                      </>
                    ) : (
                      <span className="text-slate">{t`unchanged`}</span>
                    )}
                  </span>
                </li>
              );
            })}
          </ul>
          {table.length > parts.length && (
            <p className="text-ember">{t`${table.length - parts.length} more rows than parts; extra rows are ignored.`}</p>
          )}
          {byName && strangers.length > 0 && (
            <p className="text-ember">
              {t`No row is called as these pictures are, so they are left out: ${strangers.join(", ")}.`}
            </p>
          )}
          <div className="mt-auto flex justify-end gap-2">
            <Button onClick={close}>{t`Cancel`}</Button>
            <Button kind="main" disabled={many === 0 || faults > 0 || !!coming} onClick={take}>
              {t`Replace ${many > 0 ? many : ""}`}
            </Button>
          </div>
        </section>
      </div>
    </Dialog>
  );
}

const Thumb = ({ picture }: { picture: string }) =>
  picture ? <img src={mediaURL(picture)} alt="" className="size-7 shrink-0 bg-picture object-contain" /> : null;
