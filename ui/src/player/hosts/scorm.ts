import type { Interaction, Platform, Report } from "./platform";
import type { Runtime } from "./runtime";

/** What a version of SCORM calls things. */
type Elements = { mode: string; sessionTime: string; exit: string; ended: string };

/** A platform that speaks a version of SCORM: what both have in common. */
export abstract class Scorm implements Platform {
  readonly memory: string | undefined;
  readonly looking: boolean;
  abstract readonly most: number;
  protected interactions: number;
  private readonly began = Date.now();

  constructor(
    protected readonly runtime: Runtime,
    private readonly elements: Elements,
  ) {
    this.looking = runtime.get(elements.mode) === "review";
    this.memory = runtime.get("cmi.suspend_data") || undefined;
    this.interactions = Number(runtime.get("cmi.interactions._count")) || 0;
  }

  get trouble() {
    return this.runtime.trouble;
  }

  /** A span of time, as the version writes it. */
  protected abstract span(ms: number): string;
  /** How it stands, once something has been attempted. */
  protected abstract status(report: Report): void;
  /** What stood in a target at a check, under its number. */
  protected abstract add(at: string, x: Interaction): void;

  tell(report: Report, interactions: Interaction[], memory: string | undefined) {
    if (this.looking) return;
    const { runtime } = this;
    if (memory !== undefined) runtime.set("cmi.suspend_data", memory);
    for (const x of interactions) this.add(`cmi.interactions.${this.interactions++}`, x);
    if (report.begun || report.done) this.status(report);
    runtime.commit(interactions.length > 0 || report.done);
  }

  leave(report: Report) {
    const { runtime, elements } = this;
    if (!this.looking) {
      runtime.set(elements.sessionTime, this.span(Date.now() - this.began));
      runtime.set(elements.exit, report.done ? elements.ended : "suspend");
    }
    runtime.finish();
  }
}
