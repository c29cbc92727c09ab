import { TriangleAlert } from "lucide-react";
import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import type { AttemptFigures, Doc } from "../api/types";

type Props = { figures: AttemptFigures; doc: Doc; activity?: string; designer: boolean };

const called = (list: { id: string; name: string; text?: string }[], id: string) => {
  const x = list.find((y) => y.id === id);
  return x?.name || x?.text || id;
};

/** What looks keyed wrong, each with the reason in a sentence. */
export function Suspects({ figures, doc, activity, designer }: Props) {
  const list = (figures.items ?? []).filter((i) => i.suspect);
  if (list.length === 0) return null;
  return (
    <ul className="flex flex-col gap-2">
      {list.map(({ item, suspect }) => (
        <li
          key={item}
          className="flex items-start gap-2.5 rounded-(--radius) border border-brass bg-brass-soft px-4 py-3"
        >
          <TriangleAlert size={18} aria-hidden className="mt-0.5 shrink-0 text-brass" />
          <p className="flex-1">
            <strong>{t`${called(doc.items, item)} may have a wrong answer key:`}</strong>{" "}
            {t`of the ${suspect!.of} who did best, ${suspect!.there} put it into ${called(doc.targets, suspect!.place)}, and ${suspect!.right} where it counts as right. Anyone who gets it right does worse on the rest.`}
          </p>
          {designer && activity && (
            <Link
              to={`/activity/${activity}?item=${encodeURIComponent(item)}&target=${encodeURIComponent(suspect!.place)}`}
              className="font-medium text-feather underline underline-offset-4"
            >
              {t`Open in answer key`}
            </Link>
          )}
        </li>
      ))}
    </ul>
  );
}
