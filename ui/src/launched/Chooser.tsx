import { useState } from "react";
import { useInfiniteQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { address } from "../api/address";
import { ask, problemOf } from "../api/client";
import type { Admitted, Problem } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { api } from "./pass";
import { Radios } from "../kit/Radios";

/** Released activities and series, of which a course links to those that are ticked. */
export function Chooser({ page }: { page: Admitted }) {
  const [find, setFind] = useState("");
  const [chosen, setChosen] = useState<string[]>([]);
  const [newest, setNewest] = useState(false);
  const [problem, setProblem] = useState<Problem>();
  const [sending, setSending] = useState(false);
  const shelf = useInfiniteQuery({
    queryKey: ["choosable", find],
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/launched/shelf", { params: { query: { find: find || undefined, after: pageParam } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next,
    // What is released meanwhile, in another tab or by somebody else, is listed. Once the
    // pass is over, nothing is asked for again.
    refetchInterval: ({ state }) => (state.status === "error" ? false : 5000),
  });
  const list = shelf.data?.pages.flatMap((p) => p.list) ?? [];
  const toggle = (id: string) =>
    setChosen((now) => (now.includes(id) ? now.filter((x) => x !== id) : page.multiple ? [...now, id] : [id]));
  const send = async () => {
    setSending(true);
    try {
      setProblem(undefined);
      const { to, token } = await ask(
        api.POST("/api/launched/choice", { body: { chosen: chosen.map((activity) => ({ activity, newest })) } }),
      );
      post(to, token);
    } catch (error) {
      setProblem(problemOf(error));
      setSending(false);
    }
  };
  return (
    <div className="flex h-full flex-col">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line bg-paper px-5 py-3">
        <div className="mr-auto">
          <h1 className="text-lg">{page.course ? t`Choose for ${page.course}` : t`Choose for the course`}</h1>
          <p className="text-slate">
            {page.multiple
              ? t`Tick one or several. ${page.platform} links to them and gets the grades.`
              : t`Tick one. ${page.platform} links to it and gets the grades.`}
          </p>
        </div>
        <input
          type="search"
          aria-label={t`Find`}
          placeholder={t`Find`}
          value={find}
          onChange={(e) => setFind(e.target.value)}
          className="h-8 w-52 rounded-(--radius) border border-edge bg-paper px-2"
        />
      </header>
      <main className="min-h-0 flex-1 overflow-auto px-5 py-4">
        {shelf.isError && <Said problem={problemOf(shelf.error)} />}
        {shelf.data && list.length === 0 && (
          <p className="text-slate">
            {find ? t`No released activity or series has “${find}” in its title.` : t`Nothing is released yet.`}
          </p>
        )}
        <ul className="mx-auto flex max-w-3xl flex-col gap-1.5">
          {list.map((x) => (
            <li key={x.activity}>
              <label className="flex cursor-pointer items-center gap-3 rounded-(--radius) border border-line bg-paper px-4 py-2.5 has-checked:border-feather has-checked:bg-feather-soft">
                <input
                  type={page.multiple ? "checkbox" : "radio"}
                  name="chosen"
                  checked={chosen.includes(x.activity)}
                  onChange={() => toggle(x.activity)}
                  className="size-4 accent-(--color-feather)"
                />
                <span className="flex-1 font-medium">{x.title}</span>
                <span className="text-slate">{x.series ? t`Series, release ${x.number}` : t`release ${x.number}`}</span>
              </label>
            </li>
          ))}
        </ul>
        {/* Whoever teaches need not be a member here: to release, one signs in at the shelf. */}
        <p className="mx-auto mt-3 max-w-3xl text-slate">
          <Trans>
            Is one missing?{" "}
            <a
              href={address("/")}
              target="_blank"
              rel="noreferrer"
              className="text-feather underline underline-offset-4"
            >
              Release it in Keen Magpie
            </a>{" "}
            (opens a new tab). It is then listed here.
          </Trans>
        </p>
        {shelf.hasNextPage && (
          <div className="mt-3 text-center">
            <Button onClick={() => void shelf.fetchNextPage()}>{t`Show more`}</Button>
          </div>
        )}
      </main>
      <footer className="flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-line bg-paper px-5 py-3">
        <Radios
          label={t`Which release`}
          className="mr-auto flex flex-wrap gap-x-5"
          value={newest ? "newest" : "this"}
          options={[
            { key: "this", title: t`This release, also when there is a newer one` },
            { key: "newest", title: t`Always the newest release` },
          ]}
          onPick={(key) => setNewest(key === "newest")}
        />
        {problem && <Said problem={problem} />}
        <Button kind="main" disabled={chosen.length === 0 || sending} onClick={() => void send()}>
          {chosen.length > 1 ? t`Add ${chosen.length} to the course` : t`Add to the course`}
        </Button>
      </footer>
    </div>
  );
}

/** The platform takes the choice by a form, as the standard has it. */
function post(to: string, token: string) {
  const form = document.createElement("form");
  form.method = "post";
  form.action = to;
  const field = document.createElement("input");
  field.type = "hidden";
  field.name = "JWT";
  field.value = token;
  form.append(field);
  document.body.append(form);
  form.submit();
}
