import Cmi5 from "@xapi/cmi5";
import { Trouble, type Interaction, type Platform, type Report } from "./platform";
import { duration } from "./scorm2004";

declare global {
  interface Window {
    /** Made known by the script that a package for cmi5 has besides. */
    magpieCmi5?: (about: { lang: string; refused: string }) => Promise<Platform>;
  }
}

/** What is kept under this name for a learner, at this activity and registration. */
const stateId = "magpie-visit";
type Kept = { memory?: string; sent: { completed?: boolean; passed?: boolean; failed?: boolean } };

const categories = {
  /** Of every statement that the profile defines. */
  cmi5: { id: "https://w3id.org/xapi/cmi5/context/categories/cmi5" },
  /** Of those by which it is decided whether a learner moves on. */
  moveOn: { id: "https://w3id.org/xapi/cmi5/context/categories/moveon" },
};
const verbs = "http://adlnet.gov/expapi/verbs/";
const masteryScore = "https://w3id.org/xapi/cmi5/context/extensions/masteryscore";

type Statement = { id: string } & Record<string, unknown>;

/**
 * A platform that launches by cmi5: statements go to its record store, in their order, each
 * until it is taken. When the page goes, what is still on its way goes with a request that
 * outlives it; each has its id, so that a store keeps it once.
 */
class Cmi5Platform implements Platform {
  readonly most = 1 << 20;
  readonly trouble = new Trouble();
  private waiting: Statement[] = [];
  private sending = false;
  private ended = false;
  private unkept = false;
  private readonly began = Date.now();

  constructor(
    private readonly cmi5: Cmi5,
    private readonly kept: Kept,
    private readonly lang: string,
    private readonly refused: string,
  ) {}

  get memory() {
    return this.kept.memory;
  }
  get looking() {
    return this.cmi5.launchData.launchMode !== "Normal";
  }

  get back() {
    const url = this.cmi5.launchData.returnURL;
    return url && /^https?:\/\//i.test(url) ? url : undefined;
  }

  tell(report: Report, interactions: Interaction[], memory: string | undefined) {
    if (this.looking || this.ended) return;
    for (const x of interactions) this.waiting.push(this.answered(x));
    const { sent } = this.kept;
    if (report.done && !sent.completed) {
      sent.completed = true;
      this.waiting.push(this.defined("completed", { completion: true }, true));
    }
    // Once passed nobody fails any more, and either is said once.
    const verb = report.passed ? "passed" : "failed";
    if (report.done && report.passMark !== undefined && !sent.passed && !sent[verb]) {
      sent[verb] = true;
      const raw = Number(report.score);
      const score = {
        scaled: Math.max(-1, Math.min(1, Number(report.percent) / 100)),
        raw,
        min: Math.min(0, raw),
        max: Number(report.points),
      };
      this.waiting.push(this.defined(verb, { score, success: report.passed }, true));
    }
    if (memory !== undefined) this.kept.memory = memory;
    this.unkept = true;
    void this.send();
  }

  /** Sends what waits, one after the other, then what is to be kept; again where it was not taken. */
  private async send() {
    if (this.sending) return;
    this.sending = true;
    let wait = 500;
    while (!this.ended && (this.waiting.length > 0 || this.unkept)) {
      const next = this.waiting[0];
      const keeps = !next;
      if (keeps) this.unkept = false;
      try {
        if (next) await this.cmi5.xapi!.sendStatement({ statement: next as never });
        else await this.cmi5.xapi!.setState({ ...where(this.cmi5), stateId, state: { ...this.kept } });
        if (next) this.waiting = this.waiting.filter((s) => s.id !== next.id);
        wait = 500;
      } catch (error) {
        if (keeps) this.unkept = true;
        const status = (error as { response?: { status?: number } }).response?.status ?? 0;
        if (next && (status === 400 || status === 403 || status === 409)) {
          // It will never be taken: the rest goes on, and it is said.
          console.warn("The record store refused a statement for good:", status, next);
          this.trouble.say(this.refused);
          this.waiting = this.waiting.filter((s) => s.id !== next.id);
          continue;
        }
        await new Promise((r) => setTimeout(r, wait));
        wait = Math.min(2 * wait, 20_000);
      }
    }
    this.sending = false;
  }

  /** A statement of this launch. */
  private statement(verb: string, more: Record<string, unknown>, context: Record<string, unknown> = {}): Statement {
    const { actor, activityId, registration } = this.cmi5.launchParameters!;
    return {
      id: crypto.randomUUID(),
      actor,
      verb: { id: verbs + verb, display: { en: verb } },
      object: { objectType: "Activity", id: activityId },
      timestamp: new Date().toISOString(),
      context: { ...this.cmi5.launchData.contextTemplate, registration, ...context },
      ...more,
    };
  }

  /** One that the profile defines. */
  private defined(verb: string, result: Record<string, unknown>, moveOn = false): Statement {
    const { contextTemplate, masteryScore: mastery } = this.cmi5.launchData;
    const activities = contextTemplate.contextActivities;
    const own = [activities?.category ?? []].flat();
    return this.statement(
      verb,
      { result: { ...result, duration: duration(Date.now() - this.began) } },
      {
        contextActivities: {
          ...activities,
          category: [...own, categories.cmi5, ...(moveOn ? [categories.moveOn] : [])],
        },
        ...(mastery !== undefined && (verb === "passed" || verb === "failed")
          ? { extensions: { ...contextTemplate.extensions, [masteryScore]: mastery } }
          : {}),
      },
    );
  }

  private answered(x: Interaction): Statement {
    const named = (ids: string[]) => ids.map((id) => ({ id, description: { [this.lang]: x.names[id] ?? id } }));
    const all = Object.keys(x.names);
    const lane = x.kind === "sequencing";
    const pattern = (ids: string[]) => (lane ? ids.join("[,]") : ids.map((i) => `${i}[.]${x.id}`).join("[,]"));
    const correct = x.correct.filter((c) => c.length > 0).map(pattern);
    const { activityId } = this.cmi5.launchParameters!;
    return this.statement("answered", {
      object: {
        objectType: "Activity",
        id: `${activityId}/step/${x.step + 1}/target/${x.id}`,
        definition: {
          type: "http://adlnet.gov/expapi/activities/cmi.interaction",
          interactionType: x.kind,
          name: { [this.lang]: x.title },
          ...(correct.length > 0 ? { correctResponsesPattern: correct } : {}),
          ...(lane
            ? { choices: named(all) }
            : { source: named(all), target: [{ id: x.id, description: { [this.lang]: x.title } }] }),
        },
      },
      result: { response: pattern(x.answer), success: x.result === "right", duration: duration(x.latency) },
    });
  }

  /** The page goes: what is sent now has to outlive it. */
  leave() {
    if (this.ended) return;
    this.ended = true;
    const { endpoint } = this.cmi5.launchParameters!;
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
    if (!this.looking) {
      const { agent, activityId, registration } = where(this.cmi5);
      const query = new URLSearchParams({
        agent: JSON.stringify(agent),
        activityId,
        registration: registration!,
        stateId,
      });
      void send(`activities/state?${query.toString()}`, "PUT", this.kept);
    }
    void send("statements", "POST", [...this.waiting, this.defined("terminated", {})]);
  }
}

/** Where documents of this launch are kept. */
function where(cmi5: Cmi5) {
  const { actor, activityId, registration } = cmi5.launchParameters!;
  return { agent: actor, activityId, registration };
}

window.magpieCmi5 = async ({ lang, refused }) => {
  const cmi5 = new Cmi5();
  await cmi5.initialize();
  const found = await cmi5
    .xapi!.getState({ ...where(cmi5), stateId })
    .then((answer) => answer.data as Partial<Kept>)
    .catch(() => undefined); // nothing was kept yet
  return new Cmi5Platform(cmi5, { memory: found?.memory, sent: found?.sent ?? {} }, lang, refused);
};
