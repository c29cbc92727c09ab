import type { RosterLearner } from "../api/types";

/** A code as it is read out: in two halves. */
export const written = (code = "") => `${code.slice(0, 4)} ${code.slice(4)}`;

/** One slip for each learner, to be cut apart. */
export function printCodes(name: string, url: string | undefined, learners: RosterLearner[]) {
  const page = document.createElement("div");
  page.className = "print-only";
  for (const l of learners) {
    const slip = page.appendChild(document.createElement("section"));
    for (const text of [name, l.name, written(l.code), url ?? ""])
      slip.appendChild(document.createElement("p")).textContent = text;
  }
  document.body.append(page);
  document.body.dataset.printing = "slips";
  const done = () => {
    page.remove();
    delete document.body.dataset.printing;
    removeEventListener("afterprint", done);
  };
  addEventListener("afterprint", done);
  print();
}
