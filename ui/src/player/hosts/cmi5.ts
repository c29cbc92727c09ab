import Cmi5 from "@xapi/cmi5";
import type { Interaction, Platform, Report } from "./platform";
import { duration } from "./scorm2004";

declare global {
  interface Window {
    /** Made known by the script that a package for cmi5 has besides. */
    magpieCmi5?: (about: { lang: string }) => Promise<Platform>;
  }
}

/** What is kept under this name for a learner, at this activity and registration. */
const stateId = "magpie-visit";
type Kept = { memory?: string; sent: { completed?: boolean; passed?: boolean; failed?: boolean } };

/** What belongs to the profile, beyond what the launch says. */
const category = { id: "https://w3id.org/xapi/cmi5/context/categories/cmi5" };
const terminated = { id: "http://adlnet.gov/expapi/verbs/terminated", display: { en: "terminated" } };

/** A platform that launches by cmi5: statements go to its record store, one after the other. */
class Cmi5Platform implements Platform {
  readonly most = 1 << 20;
  trouble = "";
  private last: Promise<unknown> = Promise.resolve();
  private keeping = false;
  private ended = false;
  private readonly began = Date.now();

  constructor(
    private readonly cmi5: Cmi5,
    private readonly kept: Kept,
    private readonly lang: string,
  ) {}

  get memory() {
    return this.kept.memory;
  }
  get looking() {
    return this.cmi5.launchData.launchMode !== "Normal";
  }

  /** One after the other, in order; what fails is logged and does not hold up the rest. */
  private queue(what: () => Promise<unknown>) {
    this.last = this.last.then(what).catch((error: unknown) => {
      console.warn("The record store did not take a statement:", error);
    });
  }

  tell(report: Report, interactions: Interaction[], memory: string | undefined) {
    if (this.looking || this.ended) return;
    for (const x of interactions) this.queue(() => this.answered(x));
    const { sent } = this.kept;
    if (report.done && !sent.completed) {
      sent.completed = true;
      this.queue(() => this.cmi5.complete());
    }
    // Once passed nobody fails any more, and either is said once.
    if (report.done && report.passMark !== undefined && !sent.passed) {
      const score = {
        scaled: Math.max(-1, Math.min(1, Number(report.percent) / 100)),
        raw: Number(report.score),
        min: Math.min(0, Number(report.score)),
        max: Number(report.points),
      };
      if (report.passed) {
        sent.passed = true;
        this.queue(() => this.cmi5.pass(score));
      } else if (!sent.failed) {
        sent.failed = true;
        this.queue(() => this.cmi5.fail(score));
      }
    }
    if (memory !== undefined) this.kept.memory = memory;
    if (!this.keeping) {
      // What comes while it waits for its turn is kept with it.
      this.keeping = true;
      this.queue(() => {
        this.keeping = false;
        return this.cmi5.xapi!.setState({ ...this.where(), state: { ...this.kept } });
      });
    }
  }

  private where() {
    const { actor, activityId, registration } = this.cmi5.launchParameters!;
    return { agent: actor, activityId, registration, stateId };
  }

  private answered(x: Interaction) {
    const named = (ids: string[]) => ids.map((id) => ({ id, description: { [this.lang]: x.names[id] ?? id } }));
    const all = Object.keys(x.names);
    const lane = x.kind === "sequencing";
    const pattern = (ids: string[]) => (lane ? ids.join("[,]") : ids.map((i) => `${i}[.]${x.id}`).join("[,]"));
    const now = new Date();
    const correct = x.correct.filter((c) => c.length > 0).map(pattern);
    return this.cmi5.interaction(
      `step-${x.step + 1}`,
      x.id,
      pattern(x.answer),
      {
        type: "http://adlnet.gov/expapi/activities/cmi.interaction",
        interactionType: x.kind,
        name: { [this.lang]: x.title },
        ...(correct.length > 0 ? { correctResponsesPattern: correct } : {}),
        ...(lane
          ? { choices: named(all) }
          : { source: named(all), target: [{ id: x.id, description: { [this.lang]: x.title } }] }),
      } as never,
      x.result === "right",
      { start: new Date(now.getTime() - x.latency), end: now },
    );
  }

  /** The page goes: what is sent now has to outlive it. */
  leave() {
    if (this.ended) return;
    this.ended = true;
    const { actor, activityId, registration, endpoint } = this.cmi5.launchParameters!;
    const template = (this.cmi5.launchData.contextTemplate ?? {}) as {
      contextActivities?: { category?: unknown[] };
    };
    const send = (path: string, method: string, body: unknown) =>
      fetch(endpoint.replace(/\/?$/, "/") + path, {
        method,
        keepalive: true,
        headers: {
          Authorization: `Basic ${this.cmi5.getAuthToken()}`,
          "Content-Type": "application/json",
          "X-Experience-API-Version": "1.0.3",
        },
        body: JSON.stringify(body),
      }).catch(() => {});
    void send("statements", "POST", {
      id: crypto.randomUUID(),
      actor,
      verb: terminated,
      object: { objectType: "Activity", id: activityId },
      timestamp: new Date().toISOString(),
      result: { duration: duration(Date.now() - this.began) },
      context: {
        ...template,
        registration,
        contextActivities: {
          ...template.contextActivities,
          category: [...(template.contextActivities?.category ?? []), category],
        },
      },
    });
  }
}

window.magpieCmi5 = async ({ lang }) => {
  const cmi5 = new Cmi5();
  await cmi5.initialize();
  const { actor, activityId, registration } = cmi5.launchParameters!;
  const found = await cmi5
    .xapi!.getState({ agent: actor, activityId, registration, stateId })
    .then((answer) => answer.data as Partial<Kept>)
    .catch(() => undefined); // nothing was kept yet
  return new Cmi5Platform(cmi5, { memory: found?.memory, sent: found?.sent ?? {} }, lang);
};
