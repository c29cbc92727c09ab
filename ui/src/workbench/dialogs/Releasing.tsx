import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { plural, t } from "@lingui/core/macro";
import { requestID } from "../../api/request";
import { api, ask, Failed } from "../../api/client";
import { ReleaseDialog } from "../../release/ReleaseDialog";
import { Button } from "../../kit/Button";
import { useDraft, useDraftStore } from "../model/draft";
import type { Doc, Entry } from "../../api/types";
import type { Saver } from "../../document/saver";
import { startsOf } from "../../document/parts";
import { i18n } from "../../words/spoken";

const languageName = (lang: string) => new Intl.DisplayNames(i18n.locale, { type: "language" }).of(lang) ?? lang;

function limitWords(ms: number): string {
  const seconds = Math.round(ms / 1000);
  const [minutes, rest] = [Math.floor(seconds / 60), seconds % 60];
  return [
    minutes > 0 && plural(minutes, { one: "# minute", other: "# minutes" }),
    rest > 0 && plural(rest, { one: "# second", other: "# seconds" }),
  ]
    .filter(Boolean)
    .join(" ");
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
            {plural(known?.pieces ?? doc.items.length, { one: "# piece", other: "# pieces" })},{" "}
            {plural(doc.targets.length, { one: "# target", other: "# targets" })}
            {known &&
              known.nowhere.length > 0 &&
              `, ${plural(known.nowhere.length, { one: "# distractor", other: "# distractors" })}`}
          </li>
          <li>
            {attempts === 0 ? t`Any number of attempts` : plural(attempts, { one: "One attempt", other: "# attempts" })}
            {wrongPieces === "home" && <>, {t`wrong pieces return to ${startsOf(doc)}`}</>}
            {rightPieces === "hold" && <>, {t`correct ones are locked`}</>}
          </li>
          <li>
            {plural(doc.marks.points, { one: "# point", other: "# points" })}
            {doc.marks.bands.length > 0 && (
              <>
                ,{" "}
                {t`in bands: ${doc.marks.bands
                  .toSorted((a, b) => b.from - a.from)
                  .map((b) => t`${b.name} from ${b.from}%`)
                  .join(", ")}`}
              </>
            )}
          </li>
          <li>
            {timeLimit === 0
              ? t`No time limit`
              : extension > 100
                ? t`${limitWords(timeLimit)} at most; up to ${extension}% of that where a roster gives more`
                : t`${limitWords(timeLimit)} at most, without extra time`}
          </li>
          <li>{t`In ${languageName(doc.lang)}`}</li>
          {timeLimit > 0 && given > extension && (
            <li className="text-brass">
              {t`A roster gives learners ${given}% of the time, but this activity allows ${extension}% at most.`}{" "}
              <Button
                onClick={() =>
                  store
                    .getState()
                    .change({ says: t`allow ${given}% of the time`, apply: (d) => (d.play.extension = given) })
                }
              >
                {t`Allow ${given}%`}
              </Button>
            </li>
          )}
        </>
      }
    />
  );
}
