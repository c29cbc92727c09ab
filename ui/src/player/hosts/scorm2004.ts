import type { Interaction, Report } from "./platform";
import type { Runtime } from "./runtime";
import { Scorm } from "./scorm";

/** A time as an ISO 8601 duration, to the hundredth of a second. */
export const duration = (ms: number) => `PT${(Math.round(Math.max(0, ms) / 10) / 100).toFixed(2)}S`;

function pattern(x: Interaction, items: string[]): string {
  return x.kind === "sequencing" ? items.join("[,]") : items.map((i) => `${i}[.]${x.id}`).join("[,]");
}

/** A platform that speaks SCORM 2004, 4th edition. */
export class Scorm2004 extends Scorm {
  readonly most = 64000;

  constructor(
    runtime: Runtime,
    private readonly lang: string,
  ) {
    super(runtime, {
      mode: "cmi.mode",
      sessionTime: "cmi.session_time",
      exit: "cmi.exit",
      ended: "normal",
    });
  }

  protected span = duration;

  protected status(report: Report) {
    const { runtime } = this;
    if (report.scored) {
      const scaled = Math.max(-1, Math.min(1, Number(report.percent) / 100));
      runtime.set("cmi.score.min", Number(report.score) < 0 ? report.score : "0");
      runtime.set("cmi.score.max", report.points);
      runtime.set("cmi.score.raw", report.score);
      runtime.set("cmi.score.scaled", String(Number(scaled.toFixed(7))));
    }
    runtime.set("cmi.progress_measure", report.progress);
    runtime.set("cmi.completion_status", report.done ? "completed" : "incomplete");
    const judged = report.done && report.passMark !== undefined;
    runtime.set("cmi.success_status", judged ? (report.passed ? "passed" : "failed") : "unknown");
  }

  protected add(at: string, x: Interaction) {
    const { runtime } = this;
    runtime.set(`${at}.id`, x.step > 0 ? `step-${x.step + 1}-${x.id}` : x.id);
    runtime.set(`${at}.type`, x.kind);
    runtime.set(`${at}.timestamp`, new Date().toISOString().replace(/\dZ$/, "Z"));
    const patterns = x.correct.filter((c) => c.length > 0);
    patterns.forEach((c, i) => runtime.set(`${at}.correct_responses.${i}.pattern`, pattern(x, c)));
    runtime.set(`${at}.weighting`, String(x.weight));
    if (x.answer.length > 0) runtime.set(`${at}.learner_response`, pattern(x, x.answer));
    runtime.set(`${at}.result`, x.result === "right" ? "correct" : "incorrect");
    runtime.set(`${at}.latency`, duration(x.latency));
    runtime.set(`${at}.description`, `{lang=${this.lang}}${x.title}`.slice(0, 250));
  }
}

export const names2004 = {
  initialize: "Initialize",
  terminate: "Terminate",
  get: "GetValue",
  set: "SetValue",
  commit: "Commit",
  error: "GetLastError",
};
