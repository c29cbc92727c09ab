import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { ImagePlus, X } from "lucide-react";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Problem } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { FilePick } from "../kit/FilePick";
import { Field } from "../kit/LabelledField";
import { Said } from "../kit/Said";
import { nameOfFile, uploadAll } from "../kit/upload";
import { starts } from "./kinds";

type Kind = (typeof starts)[number][0];

/** What is pasted becomes, by kind. */
const hint = t`Sort, match: a row for each item, with its target in the next column.
Sequence, label: a line for each piece.
One question: the question, then a line for each answer, the correct one first.
Gap text: the text, with [[brackets]] around what is left out.`;

/** A new activity of a kind, with its starting layout, from what is at hand. */
export function NewActivity({ open, onClose }: { open: boolean; onClose: () => void }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [title, setTitle] = useState("");
  const [text, setText] = useState("");
  const [files, setFiles] = useState<File[]>([]);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [refusal, setRefusal] = useState("");
  const add = (list: Iterable<File>) => setFiles((had) => [...had, ...list]);
  const make = async (kind: Kind, name: string) => {
    setBusy(true);
    setProblem(null);
    setRefusal("");
    try {
      const { kept, refused } = await uploadAll(files);
      if (refused.length > 0) {
        setFiles(files.filter((f) => kept.some((k) => k.file === f)));
        setRefusal(t`${refused.join(" ")} Nothing was created yet: choose a type to go on without.`);
        return;
      }
      const draft = await ask(
        api.POST("/api/activities/new", {
          body: {
            kind,
            title: title.trim() || t`New ${name.toLowerCase()}`,
            text,
            files: kept.map(({ id, type, width, height, file }) => ({
              id,
              name: nameOfFile(file.name) || t`Picture`,
              sound: type.startsWith("audio/"),
              width,
              height,
            })),
          },
        }),
      );
      void queries.invalidateQueries({ queryKey: ["shelf"] });
      // Where the first work is: the words and pictures, but for what is written or drawn on the board.
      const onBoard = kind === "gaps" || kind === "blank" || kind === "question";
      void navigate(`/activity/${draft.id}${onBoard ? "" : "?tab=content"}`);
    } catch (error) {
      setProblem(problemOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog
      open={open}
      busy={busy}
      onClose={onClose}
      wide
      title={t`New activity`}
      about={t`Choose a type: it opens ready to play.`}
    >
      <div
        className="grid gap-5 md:grid-cols-2"
        onDragOver={(e) => e.dataTransfer.types.includes("Files") && e.preventDefault()}
        onDrop={(e) => {
          if (e.dataTransfer.files.length === 0) return;
          e.preventDefault();
          add(e.dataTransfer.files);
        }}
        onPaste={(e) => {
          if (e.clipboardData.files.length === 0) return;
          e.preventDefault();
          add(e.clipboardData.files);
        }}
      >
        <div className="flex flex-col">
          <Field
            label={t`Title`}
            value={title}
            maxLength={200}
            placeholder={t`You can name it later`}
            onText={setTitle}
          />
          <label htmlFor="new-text" className="font-medium">
            {t`Your content, if you have it`}
          </label>
          <textarea
            id="new-text"
            value={text}
            placeholder={hint}
            onChange={(e) => setText(e.target.value)}
            className="mt-1 min-h-36 flex-1 rounded-(--radius) border border-edge bg-paper p-2 placeholder:text-slate"
          />
          <div className="mt-2 flex flex-wrap items-center gap-2">
            <FilePick
              label={t`Pictures and sounds`}
              multiple
              accept="image/png,image/jpeg,image/webp,image/gif,image/svg+xml,audio/*"
              onFiles={add}
            >
              <ImagePlus size={16} aria-hidden /> {t`Add pictures or sounds`}
            </FilePick>
            {files.length > 0 && (
              <span className="flex min-w-0 items-center gap-1">
                <span className="truncate">{files.length === 1 ? files[0]!.name : t`${files.length} files`}</span>
                <Button kind="quiet" className="px-1" aria-label={t`Remove the files`} onClick={() => setFiles([])}>
                  <X size={14} aria-hidden />
                </Button>
              </span>
            )}
          </div>
        </div>
        <div role="group" aria-label={t`Type`} className="grid content-start gap-1.5 sm:grid-cols-2">
          {starts.map(([kind, name, about]) => (
            <button
              key={kind}
              type="button"
              onClick={() => void make(kind, name)}
              className="rounded-(--radius) border border-line p-2.5 text-left hover:border-feather hover:bg-feather-soft disabled:opacity-60"
            >
              <span className="block font-semibold">{name}</span>
              <span className="block text-[13px] text-slate">{about}</span>
            </button>
          ))}
        </div>
      </div>
      {problem && <Said problem={problem} />}
      {refusal && (
        <p role="alert" className="mt-3 text-ember">
          {refusal}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{t`Cancel`}</Button>
      </div>
    </Dialog>
  );
}
