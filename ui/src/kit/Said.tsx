import { TriangleAlert } from "lucide-react";
import type { Problem } from "../api/types";
import { reveal } from "./reveal";

/** What went wrong, what is safe, what to do. */
export function Said({ problem }: { problem: Problem }) {
  return (
    <div
      ref={reveal}
      role="alert"
      className="flex gap-2 rounded-(--radius) border border-ember bg-ember-soft px-3 py-2 text-ink"
    >
      <TriangleAlert size={18} className="mt-0.5 shrink-0 text-ember" aria-hidden />
      <div>
        {problem.detail}
        {problem.faults && problem.faults.length > 0 && (
          <ul className="mt-1 list-disc pl-5">
            {problem.faults.slice(0, 8).map((f) => (
              <li key={f.pointer + f.message}>
                <code>{f.pointer || "/"}</code>: {f.message}
              </li>
            ))}
          </ul>
        )}
      </div>
    </div>
  );
}
