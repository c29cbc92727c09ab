import type { Interaction, Report } from "./platform";
import type { Runtime } from "./runtime";
import { Scorm } from "./scorm";

const two = (n: number) => String(n).padStart(2, "0");

/** A time as hours, minutes, seconds, and hundredths where they are wanted: 0001:02:03.45. */
export function span12(ms: number): string {
  const hundredths = Math.round(ms / 10);
  const seconds = Math.floor(hundredths / 100);
  const hours = Math.min(9999, Math.floor(seconds / 3600));
  return `${String(hours).padStart(4, "0")}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}.${two(hundredths % 100)}`;
}

/** The time of the day. */
function clock12(at: Date): string {
  return `${two(at.getHours())}:${two(at.getMinutes())}:${two(at.getSeconds())}`;
}

const longest = 255;

/** Joins as many as fit; what is left out is left out whole. */
function joined(parts: string[]): string {
  let out = "";
  for (const p of parts) {
    if (out.length + p.length + 1 > longest) break;
    out += out ? `,${p}` : p;
  }
  return out;
}

/** Identifiers of this version are letters, digits and underscores. */
export const id12 = (id: string) => id.replace(/[^A-Za-z0-9]/g, "_").slice(0, 60);

function pattern12(x: Interaction, items: string[]): string {
  return joined(items.map((i) => (x.kind === "sequencing" ? id12(i) : `${id12(i)}.${id12(x.id)}`)));
}

/** A platform that speaks SCORM 1.2. */
export class Scorm12 extends Scorm {
  readonly most = 4096;

  constructor(runtime: Runtime) {
    super(runtime, {
      mode: "cmi.core.lesson_mode",
      sessionTime: "cmi.core.session_time",
      exit: "cmi.core.exit",
      ended: "",
    });
  }

  protected span = span12;

  protected status(report: Report) {
    const { runtime } = this;
    if (report.scored) {
      runtime.set("cmi.core.score.min", "0");
      runtime.set("cmi.core.score.max", "100");
      runtime.set("cmi.core.score.raw", String(Math.max(0, Number(report.percent))));
    }
    const passed = report.passed ? "passed" : "failed";
    const ended = report.passMark ? passed : "completed";
    runtime.set("cmi.core.lesson_status", report.done ? ended : "incomplete");
  }

  protected add(at: string, x: Interaction) {
    const { runtime } = this;
    runtime.set(`${at}.id`, id12(x.step > 0 ? `s${x.step + 1}_${x.id}` : x.id));
    runtime.set(`${at}.type`, x.kind);
    x.correct.forEach((c, i) => {
      const pattern = pattern12(x, c);
      if (pattern) runtime.set(`${at}.correct_responses.${i}.pattern`, pattern);
    });
    runtime.set(`${at}.time`, clock12(new Date()));
    runtime.set(`${at}.weighting`, String(x.weight));
    const answer = pattern12(x, x.answer);
    if (answer) runtime.set(`${at}.student_response`, answer);
    runtime.set(`${at}.result`, x.result === "right" ? "correct" : "wrong");
    runtime.set(`${at}.latency`, span12(x.latency));
  }
}

export const names12 = {
  initialize: "LMSInitialize",
  terminate: "LMSFinish",
  get: "LMSGetValue",
  set: "LMSSetValue",
  commit: "LMSCommit",
  error: "LMSGetLastError",
};
