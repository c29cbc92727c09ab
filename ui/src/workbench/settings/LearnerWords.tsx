import { Select } from "../../kit/Select";
import { reveal } from "../../kit/reveal";
import { useMemo, useState } from "react";
import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { api, ask, problemOf } from "../../api/client";
import { allWords, languageKey, languages } from "../../words/words";
import { TypedInput } from "../../kit/TypedInput";
import { useWhole } from "../../kit/useWhole";
import { tip } from "../../kit/tip";
import { useWorkspaceWords, workspaceWords } from "../../words/useWorkspaceWords";
import { useDraft, useDraftStore } from "../model/draft";

/** The language that learners read, and words that the author puts in place of its own. */
export function LearnerWords() {
  const store = useDraftStore();
  const lang = useDraft((s) => s.doc.lang);
  const own = useDraft((s) => s.doc.words);
  const [open, setOpen] = useState(false);
  const words = useMemo(() => allWords(lang), [lang]);
  const known = languageKey(lang);
  const changed = Object.keys(own ?? {}).length;
  const shared = useWorkspaceWords(lang);
  const { queryKey, queryFn } = workspaceWords(lang);
  const change = useWhole(queryKey, queryFn, ({ words }) =>
    ask(api.PUT("/api/words/{lang}", { params: { path: { lang } }, body: { words } })),
  );
  const [problem, setProblem] = useState("");
  const share = async (id: string, text: string) => {
    setProblem("");
    try {
      await change((now) => ({ ...now, words: { ...now.words, [id]: text } }));
    } catch (error) {
      setProblem(problemOf(error).detail);
    }
  };
  const set = (id: string, text: string) =>
    store.getState().change({
      says: t`change a word that learners read`,
      apply: (d) => {
        const next = { ...d.words };
        if (text.trim() === "") delete next[id];
        else next[id] = text;
        d.words = next;
      },
    });
  return (
    <section aria-label={t`Words that learners read`} className="border-b border-line px-4 py-2.5 leading-7.5">
      <h3 className="text-[15px]">{t`What learners read`}</h3>
      <p>
        <Trans>
          Buttons and messages are in{" "}
          <Select
            label={t`Language`}
            value={known ?? "other"}
            onPick={(to) => store.getState().change({ says: t`change the language`, apply: (d) => void (d.lang = to) })}
            className="h-7 rounded-(--radius) border border-line bg-paper px-1 font-medium text-feather"
            options={[
              ...Object.entries(languages).map(([id, l]) => [id, l.name] as const),
              !known && ["other", t`${lang} (shown in English)`],
            ]}
          />
          .
        </Trans>{" "}
        <button
          type="button"
          className="text-feather underline underline-offset-4"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {changed > 0 ? plural(changed, { one: "# custom text", other: "# custom texts" }) : t`Customise texts…`}
        </button>
      </p>
      {problem && <p className="text-ember">{problem}</p>}
      {open && (
        <table ref={reveal} className="w-full scroll-mt-8 text-left leading-tight">
          <thead className="text-[13px] text-slate">
            <tr>
              <th className="w-2/5 py-1 font-semibold">{t`Default`}</th>
              <th className="font-semibold">{t`Workspace`}</th>
              <th className="font-semibold">{t`This activity`}</th>
            </tr>
          </thead>
          <tbody>
            {words.map(({ id, text }) => (
              <tr key={id} className="border-t border-line/70">
                <td className="py-1 pr-2 text-slate" {...tip(id)}>
                  {text} {id.endsWith(".one") && <span className="text-[12px]">{t`(one)`}</span>}
                </td>
                <td className="pr-2">
                  <TypedInput
                    label={t`In the workspace, in place of: ${text}`}
                    value={shared[id] ?? ""}
                    maxLength={300}
                    onDone={(text) => void share(id, text)}
                    className="w-full"
                  />
                </td>
                <td>
                  <TypedInput
                    label={t`In place of: ${text}`}
                    value={own?.[id] ?? ""}
                    maxLength={300}
                    onDone={(text) => set(id, text)}
                    className="w-full"
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
