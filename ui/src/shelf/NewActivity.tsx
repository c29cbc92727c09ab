import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, ask, problemOf } from "../api/client";
import type { Problem } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";

const kinds = [
  ["sort", "Sort", "Pieces go into groups, each holding several."],
  ["match", "Match", "Each piece goes next to its prompt."],
  ["sequence", "Sequence", "Steps are put in order."],
  ["label", "Label", "Labels go on spots in a picture."],
  ["gaps", "Gap text", "Words go into the gaps of a text."],
  ["build", "Build", "Parts are assembled; there can be several correct answers."],
] as const;

type Kind = (typeof kinds)[number][0];

/** A new activity of a kind, with its starting layout. */
export function NewActivity({ open, onClose }: { open: boolean; onClose: () => void }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [kind, setKind] = useState<Kind>("sort");
  const [title, setTitle] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const make = async () => {
    try {
      const name = kinds.find(([k]) => k === kind)![1];
      const draft = await ask(
        api.POST("/api/activities/new", { body: { kind, title: title.trim() || `New ${name.toLowerCase()}` } }),
      );
      await queries.invalidateQueries({ queryKey: ["shelf"] });
      // Where the first work is: the words and pictures, but for a text, which is written on the board.
      void navigate(`/activity/${draft.id}${kind === "gaps" ? "" : "?tab=content"}`);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  return (
    <Dialog open={open} onClose={onClose} title="New activity" about="Starts with a ready-to-play layout.">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void make();
        }}
      >
        <label htmlFor="new-title" className="font-medium">
          Title
        </label>
        <input
          id="new-title"
          value={title}
          maxLength={200}
          onChange={(e) => setTitle(e.target.value)}
          className="mt-1 mb-4 h-9 w-full rounded-(--radius) border border-edge bg-paper px-2"
        />
        <fieldset className="grid gap-1.5 sm:grid-cols-2">
          <legend className="mb-1 font-medium">Type</legend>
          {kinds.map(([k, name, about]) => (
            <label
              key={k}
              className={`flex cursor-pointer gap-2 rounded-(--radius) border p-2 ${kind === k ? "border-feather bg-feather-soft" : "border-line"}`}
            >
              <input type="radio" name="kind" value={k} checked={kind === k} onChange={() => setKind(k)} />
              <span>
                <span className="font-semibold">{name}</span>
                <span className="block text-[13px] text-slate">{about}</span>
              </span>
            </label>
          ))}
        </fieldset>
        {problem && <Said problem={problem} />}
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="main" type="submit">
            Create
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
