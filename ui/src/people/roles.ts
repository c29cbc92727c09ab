import { t } from "@lingui/core/macro";
import type { Person } from "../api/types";

export type May = { role: Person["role"]; owner: boolean };

/** What members may do, the most first. */
export const roles: { key: string; title: string; about: string; may: May }[] = [
  {
    key: "owner",
    title: t`Owner`,
    about: t`Everything a designer can do, and manages people and learners’ data.`,
    may: { role: "designer", owner: true },
  },
  {
    key: "designer",
    title: t`Designer`,
    about: t`Makes, releases and changes activities, and sees outcomes.`,
    may: { role: "designer", owner: false },
  },
  {
    key: "reviewer",
    title: t`Reviewer`,
    about: t`Sees drafts, tries them and comments; sees no learners’ names.`,
    may: { role: "reviewer", owner: false },
  },
  {
    key: "viewer",
    title: t`Viewer`,
    about: t`Sees activities and outcomes, and changes nothing.`,
    may: { role: "viewer", owner: false },
  },
];

export function roleOf(p: { role: string; owner: boolean }) {
  const now = roles.find((r) => r.may.role === p.role && r.may.owner === p.owner) ?? roles[1]!;
  return { ...now, others: roles.filter((r) => r !== now) };
}
