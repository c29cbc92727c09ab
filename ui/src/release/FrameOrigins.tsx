import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Problem } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { useWhole } from "../kit/useWhole";

const read = () => ask(api.GET("/api/frames"));

/** The sites whose pages may show the workspace's releases in a frame; no others can. */
export function FrameOrigins() {
  const frames = useQuery({ queryKey: ["frames"], queryFn: read });
  const change = useWhole(["frames"], read, (body) => ask(api.PUT("/api/frames", { body })));
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const list = frames.data?.origins ?? [];
  const keep = async (apply: (origins: string[]) => string[]) => {
    try {
      setProblem(undefined);
      await change((now) => ({ ...now, origins: apply(now.origins) }));
      return true;
    } catch (error) {
      setProblem(problemOf(error));
      return false;
    }
  };
  return (
    <form
      className="flex flex-col gap-1.5"
      onSubmit={async (e) => {
        e.preventDefault();
        if (text.trim() && (await keep((now) => [...now, text]))) setText((now) => (now === text ? "" : now));
      }}
    >
      <label htmlFor="frame-origin" className="text-slate">
        {list.length === 0 && frames.data
          ? t`Sites that may show this workspace’s releases (none yet: browsers refuse the frame)`
          : t`Sites that may show this workspace’s releases`}
      </label>
      {list.length > 0 && (
        <ul className="flex flex-wrap gap-1.5">
          {list.map((origin) => (
            <li key={origin} className="flex items-center gap-1 rounded-(--radius) border border-line px-2">
              {origin}
              <button
                type="button"
                aria-label={t`Remove ${origin}`}
                onClick={() => void keep((now) => now.filter((o) => o !== origin))}
                className="px-1 text-slate hover:text-ink"
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex gap-2">
        <input
          id="frame-origin"
          type="url"
          placeholder="https://pages.tarnbridge.example"
          value={text}
          onChange={(e) => setText(e.target.value)}
          className="h-8 min-w-0 flex-1 rounded-(--radius) border border-edge bg-paper px-2"
        />
        <Button type="submit" disabled={!text.trim()}>
          {t`Allow`}
        </Button>
      </div>
      {problem && <Said problem={problem} />}
    </form>
  );
}
