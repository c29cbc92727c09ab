import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { requestID } from "../../api/request";
import { api, ask, Failed } from "../../api/client";
import { ReleaseDialog } from "../../release/ReleaseDialog";
import { Button } from "../../kit/Button";
import { useDraft, useDraftStore } from "../model/draft";
import type { Doc, Entry } from "../../api/types";
import type { Saver } from "../../document/saver";
import { count } from "../../words/count";
import { startsOf } from "../../document/parts";

const languageName = (lang: string) => new Intl.DisplayNames("en", { type: "language" }).of(lang) ?? lang;

function limitWords(ms: number): string {
  const seconds = Math.round(ms / 1000);
  const [minutes, rest] = [Math.floor(seconds / 60), seconds % 60];
  const some = (n: number, unit: string) => (n === 0 ? "" : `${n} ${unit}${n === 1 ? "" : "s"}`);
  return [some(minutes, "minute"), some(rest, "second")].filter(Boolean).join(" ");
}

/** Releases the activity that is being worked on, once it is saved. */
export function Releasing({ saver, onClose }: { saver: Saver<Doc>; onClose: () => void }) {
  const store = useDraftStore();
  const { id, known, doc } = useDraft((s) => s);
  const [request] = useState(requestID);
  const release = async (entry: Entry) => {
    await saver.flush();
    const { revision, saving, problem } = store.getState();
    if (saving !== "saved") {
      if (problem) throw new Failed(problem);
      return undefined;
    }
    const made = await ask(
      api.POST("/api/activities/{id}/releases", {
        params: { path: { id } },
        body: { revision, request: `${request}.${revision}`, entry },
      }),
    );
    store.setState({ released: true });
    return made;
  };
  const { attempts, wrongPieces, rightPieces, timeLimit, extension } = doc.play;
  const rosters = useQuery({ queryKey: ["rosters"], queryFn: () => ask(api.GET("/api/rosters")) });
  const given = Math.max(100, ...(rosters.data?.rosters ?? []).map((r) => r.mostTime));
  return (
    <ReleaseDialog
      id={id}
      title={doc.title}
      release={release}
      onClose={onClose}
      facts={
        <>
          <li>
            {count(known?.pieces ?? doc.items.length, "piece")}, {count(doc.targets.length, "target")}
            {known && known.nowhere.length > 0 && `, ${count(known.nowhere.length, "distractor")}`}
          </li>
          <li>
            {attempts === 0 ? "Any number of attempts" : attempts === 1 ? "One attempt" : `${attempts} attempts`}
            {wrongPieces === "home" && `, wrong pieces return to ${startsOf(doc)}`}
            {rightPieces === "hold" && ", correct ones are locked"}
          </li>
          <li>
            {count(doc.marks.points, "point")}
            {doc.marks.bands.length > 0 &&
              `, in bands: ${doc.marks.bands
                .toSorted((a, b) => b.from - a.from)
                .map((b) => `${b.name} from ${b.from} %`)
                .join(", ")}`}
          </li>
          <li>
            {timeLimit > 0
              ? `${limitWords(timeLimit)} at most; up to ${extension} % of that where a roster gives more`
              : "No time limit"}
          </li>
          <li>In {languageName(doc.lang)}</li>
          {timeLimit > 0 && given > extension && (
            <li className="text-brass">
              A roster gives learners {given}% of the time, but this activity allows {extension}% at most.{" "}
              <Button
                onClick={() =>
                  store
                    .getState()
                    .change({ says: `allow ${given}% of the time`, apply: (d) => (d.play.extension = given) })
                }
              >
                Allow {given}%
              </Button>
            </li>
          )}
        </>
      }
    />
  );
}
