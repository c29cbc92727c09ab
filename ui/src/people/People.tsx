import { useState } from "react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { Ellipsis, UserPlus } from "lucide-react";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me, Person } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Menu, MenuItem } from "../kit/Menu";
import { Said } from "../kit/Said";
import { LinkField } from "../kit/LinkField";
import { Invite } from "./Invite";
import { Invitations } from "./Invitations";
import { roleOf, type May } from "./roles";
import { goTo } from "../api/address";
import { day } from "../words/figures";

const lastHere = (at?: string) => (at ? day(at) : t`never`);

/** Who is in the workspace, what each may do, and who is invited. */
export function People({ me }: { me: Me }) {
  const queries = useQueryClient();
  const people = useQuery({ queryKey: ["people"], queryFn: () => ask(api.GET("/api/people")) });
  const [inviting, setInviting] = useState(false);
  const [removing, setRemoving] = useState<Person>();
  const [link, setLink] = useState<{ name: string; path: string }>();
  const again = () => queries.invalidateQueries({ queryKey: ["people"] });
  const change = useMutation({
    mutationFn: ({ person, may }: { person: Person; may: May }) =>
      ask(api.PUT("/api/people/{id}", { params: { path: { id: person.id } }, body: may })),
    onSuccess: (_, { person, may }) => {
      // Whoever hands over has nothing more to do here.
      if (person.me && !may.owner) goTo("/");
      else void again();
    },
  });
  const remove = useMutation({
    mutationFn: (person: Person) => ask(api.DELETE("/api/people/{id}", { params: { path: { id: person.id } } })),
    onSuccess: (_, person) => {
      setRemoving(undefined);
      if (person.me) goTo("/");
      else void again();
    },
  });
  const reset = useMutation({
    mutationFn: (person: Person) =>
      ask(api.POST("/api/people/{id}/password", { params: { path: { id: person.id } } })).then((made) => ({
        name: person.name,
        path: made.link,
      })),
    onSuccess: setLink,
  });
  const failed = people.error ?? change.error ?? reset.error;

  return (
    <div className="min-h-full">
      <header className="flex min-h-12 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-paper px-4 py-1">
        <Link to="/" className="text-slate hover:text-ink">
          {t`Shelf /`}
        </Link>
        <h1 className="text-lg">{t`People`}</h1>
        <span className="text-slate">{me.workspace}</span>
        <Button kind="main" className="ml-auto" onClick={() => setInviting(true)}>
          <UserPlus size={16} aria-hidden /> {t`Invite…`}
        </Button>
      </header>
      <main className="mx-auto flex max-w-4xl flex-col gap-6 px-4 py-6">
        {failed && <Said problem={problemOf(failed)} />}
        {people.data && (
          <section aria-label={t`Members`} className="overflow-x-auto rounded-(--radius) border border-line bg-paper">
            <table className="w-full">
              <thead className="border-b border-line bg-mist text-left">
                <tr>
                  <th className="px-4 py-2 font-semibold">{t`Name`}</th>
                  <th className="px-4 font-semibold max-sm:hidden">{t`Email`}</th>
                  <th className="px-4 font-semibold">{t`Role`}</th>
                  <th className="px-4 font-semibold whitespace-nowrap max-sm:hidden">{t`Last here`}</th>
                  <th className="w-12">
                    <span className="sr-only">{t`Actions`}</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {people.data.people.map((p) => (
                  <tr key={p.id} className="border-b border-line last:border-0">
                    <td className="px-4 py-2 font-medium">
                      {p.name}
                      {p.me && <span className="font-normal text-slate"> {t`(you)`}</span>}
                      <span className="block font-normal text-slate [overflow-wrap:anywhere] sm:hidden">{p.email}</span>
                      <span className="block font-normal text-slate sm:hidden">{t`last here: ${lastHere(p.seenAt)}`}</span>
                    </td>
                    <td className="px-4 text-slate max-sm:hidden">{p.email}</td>
                    <td className="px-4">{roleOf(p).title}</td>
                    <td className="px-4 whitespace-nowrap text-slate max-sm:hidden">{lastHere(p.seenAt)}</td>
                    <td className="pr-2 text-right">
                      <Actions
                        person={p}
                        onRole={(may) => change.mutate({ person: p, may })}
                        onReset={() => reset.mutate(p)}
                        onRemove={() => setRemoving(p)}
                      />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        )}
        {people.data && <Invitations list={people.data.invitations} onChanged={again} />}
      </main>
      {inviting && <Invite workspace={me.workspace} onClose={() => setInviting(false)} onMade={again} />}
      <Dialog
        open={!!link}
        onClose={() => setLink(undefined)}
        title={t`New password for ${link?.name ?? ""}`}
        about={t`Send this link to them. It works once, for an hour, and is not shown again.`}
      >
        {link && <LinkField path={link.path} label={t`Link for a new password`} />}
      </Dialog>
      <Dialog
        open={!!removing}
        busy={remove.isPending}
        onClose={() => setRemoving(undefined)}
        title={removing?.me ? t`Leave ${me.workspace}?` : t`Remove ${removing?.name ?? ""}?`}
        about={t`What they made stays in the workspace. Signing in here ends for them at once.`}
      >
        {remove.error && (
          <div className="mb-3">
            <Said problem={problemOf(remove.error)} />
          </div>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={() => setRemoving(undefined)}>{t`Cancel`}</Button>
          <Button kind="main" onClick={() => removing && remove.mutate(removing)}>
            {removing?.me ? t`Leave` : t`Remove`}
          </Button>
        </div>
      </Dialog>
    </div>
  );
}

type ActionsProps = { person: Person; onRole: (may: May) => void; onReset: () => void; onRemove: () => void };

function Actions({ person, onRole, onReset, onRemove }: ActionsProps) {
  const now = roleOf(person);
  return (
    <Menu
      align="end"
      trigger={
        <button
          type="button"
          aria-label={t`More actions for ${person.name}`}
          className="grid size-8 place-items-center rounded-(--radius) text-slate hover:bg-mist"
        >
          <Ellipsis size={18} />
        </button>
      }
    >
      {now.others.map((r) => (
        <MenuItem key={r.title} onSelect={() => onRole(r.may)}>
          {t`Make ${r.title.toLowerCase()}`}
        </MenuItem>
      ))}
      {!person.me && <MenuItem onSelect={onReset}>{t`Link for a new password…`}</MenuItem>}
      <MenuItem className="text-ember" onSelect={onRemove}>
        {person.me ? t`Leave the workspace…` : t`Remove…`}
      </MenuItem>
    </Menu>
  );
}
