import { t } from "@lingui/core/macro";
import { Failed } from "../api/client";
import type { Problem, RemarkStep } from "../api/types";
import { address } from "../api/address";

const brokeOff: Problem = {
  status: 0,
  title: "",
  code: "broke-off",
  detail: t`The calculation was interrupted. Nothing was changed; try again.`,
};

/** Has a re-mark worked out, and tells how far it is; gives its id. Aborting stops the server too. */
export async function workOut(
  release: string,
  step: number | undefined,
  onStep: (s: RemarkStep) => void,
  signal: AbortSignal,
): Promise<string> {
  const of = step === undefined ? "" : `?step=${step}`;
  const r = await fetch(address(`/api/releases/${encodeURIComponent(release)}/remarks${of}`), {
    method: "POST",
    signal,
  });
  if (!r.ok || !r.body) throw new Failed((await r.json().catch(() => brokeOff)) as Problem);
  const lines = r.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { done, value } = await lines.read();
    if (done) throw new Failed(brokeOff);
    const parts = (rest + value).split("\n");
    rest = parts.pop()!;
    for (const part of parts) {
      const step = JSON.parse(part) as RemarkStep;
      if (step.problem) throw new Failed(step.problem);
      if (step.remark) return step.remark;
      onStep(step);
    }
  }
}
