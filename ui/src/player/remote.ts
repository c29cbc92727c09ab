import type { Beckoning, Begun, Going, Move, Now, Opening, Problem, Standing, Trying, View } from "../api/types";
import { requestID } from "../api/request";
import { keep, keepInTab, keptInTab, keptNames } from "../kit/kept";
import { Unreachable, type Bench, type Host, type Walk } from "./judge";
import { address } from "../api/address";

/** The server refused a request, with the reason. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** What a platform gave whoever comes from one of its courses; it is used once. */
const ticket = new URLSearchParams(location.search).get("ticket") ?? "";
/** In a frame of another site no cookie is kept: the token of the sitting stays with the page. */
const framed = window.parent !== window || ticket !== "";
const tokenOf = (path: string) => `magpie-token-${/\/api\/play\/([^/?]+)/.exec(path)?.[1] ?? ""}`;
const tokens = new Map<string, string>();

function framedHeaders(path: string): Record<string, string> {
  if (!framed) return {};
  const name = tokenOf(path);
  const token = tokens.get(name) ?? keptInTab(name);
  const pass = ticket && passOf();
  return {
    "Magpie-Framed": "1",
    ...(token ? { "Magpie-Sitting": token } : {}),
    ...(pass ? { "Magpie-Pass": pass } : {}),
  };
}

/** By what the page goes on once its ticket was used. */
const passName = `magpie-pass-${ticket}`;
/** Where the platform wants whoever it sent to come back to. */
let cameFrom: string | undefined;
const passOf = () => tokens.get(passName) ?? keptInTab(passName);

async function request<T>(path: string, init: RequestInit = {}): Promise<T> {
  let response;
  try {
    response = await fetch(path, {
      ...init,
      headers: { "Content-Type": "application/json", ...framedHeaders(path) },
      signal: AbortSignal.timeout(15000),
    });
  } catch (error) {
    throw new Unreachable(String(error));
  }
  const { status, headers } = response;
  const token = framed && headers.get("Magpie-Sitting");
  if (token) {
    tokens.set(tokenOf(path), token);
    keepInTab(tokenOf(path), token);
  }
  const back = headers.get("Magpie-Back");
  if (back) cameFrom = back;
  const pass = headers.get("Magpie-Pass");
  if (pass) {
    tokens.set(passName, pass);
    keepInTab(passName, pass);
  }
  if (status === 204) return undefined as T;
  const kind = headers.get("Content-Type") ?? "";
  const moves = init.method === "POST" && path.includes("/moves");
  const busy = status >= 500 || (status === 429 && moves);
  // Only our server says no. A page of a network that asks to sign in first, or half an
  // answer, is as good as none.
  const ours = response.ok ? kind.startsWith("application/json") : kind.startsWith("application/problem+json");
  if (busy || !ours) throw new Unreachable(`status ${status}`, Number(headers.get("Retry-After") ?? 0));
  let answer;
  try {
    answer = (await response.json()) as unknown;
  } catch (error) {
    throw new Unreachable(String(error));
  }
  if (!response.ok) throw new Refused(answer as Problem);
  return answer as T;
}

const post = (body: unknown): RequestInit => ({ method: "POST", body: JSON.stringify(body) });

/** A release by its link: the server keeps the sittings and judges them. */
export class HostedRelease implements Host, Walk {
  private readonly base: string;
  private readonly kept: string;

  constructor(link: string) {
    this.base = address(`/api/play/${link}`);
    this.kept = `magpie-moves-${link}`;
    // When the page goes, a platform that wants to know is told; loaded again, it goes on.
    if (ticket)
      addEventListener("pagehide", () => {
        const body = JSON.stringify({ pass: passOf() });
        const headers = { "Content-Type": "application/json" };
        void fetch(`${this.base}/left`, { method: "POST", keepalive: true, headers, body }).catch(() => {});
      });
  }

  readonly alone = ticket !== "";
  /** From a platform: the first time by the ticket, then, as after a reload, by what was given for it. */
  arrive = ticket
    ? async (again = false) => {
        const body = { ...(passOf() ? {} : { ticket }), again, request: requestID() };
        return await request<Begun>(`${this.base}/arrivals`, post(body));
      }
    : undefined;
  back = () => cameFrom;
  opening = () => request<Opening>(this.base);
  /** The same request goes out again until it is answered, so that it begins once. */
  private beginning = { who: "", request: "" };
  begin = async (who: { learner?: string; code?: string }) => {
    const name = JSON.stringify(who);
    if (this.beginning.who !== name) this.beginning = { who: name, request: requestID() };
    const begun = await request<Begun>(`${this.base}/sittings`, post({ ...who, request: this.beginning.request }));
    this.beginning = { who: "", request: "" };
    // What an earlier sitting could not send is not this learner's.
    for (const name of keptNames(this.kept)) keep(name, undefined);
    return begun;
  };
  leave = async () => {
    await request<void>(`${this.base}/sitting`, { method: "DELETE" });
    tokens.delete(tokenOf(`${this.base}/`));
    keepInTab(tokenOf(`${this.base}/`), undefined);
  };
  go = (to: Going) => request<View>(`${this.base}/go`, post(to));
  now = () => request<Now>(`${this.base}/now`);
  mediaURL = (id: string) => `${this.base}/media/${id}`;
  bench = (step: number, turn: number): Bench => {
    const where = `step=${step}&turn=${turn}`;
    return {
      act: (move: Move) => request<Standing>(`${this.base}/moves?${where}`, post(move)),
      beckon: async (piece) => request<Beckoning>(`${this.base}/beckoning/${encodeURIComponent(piece)}?${where}`),
      mediaURL: this.mediaURL,
      keep: `${this.kept}-${step}-${turn}`,
      now: async () => (await this.opening()).sitting?.standing,
    };
  };
}

/** A draft by its link. Nothing is kept: each time all moves are sent, and played from the beginning. */
export class TriedDraft implements Host {
  private trying: Trying | undefined;
  private moves: Move[] = [];

  constructor(private readonly link: string) {}

  private get base() {
    return address(`/api/try/${this.link}/${this.trying!.revision}`);
  }

  private start = async () => {
    this.trying = await request<Trying>(address(`/api/try/${this.link}`));
    this.moves = [];
    return this.trying.seated;
  };
  opening = async (): Promise<Opening> => {
    const { scene } = await this.start();
    const { title, instructions, lang, words, timeLimit } = scene;
    return { title, instructions, lang, words, timeLimit, byCode: false };
  };
  begin = async (): Promise<Begun> => ({ sitting: await this.start() });
  leave = async () => {};
  bench = (): Bench => ({
    act: async (move) => {
      const moves = [...this.moves, move];
      const standing = await request<Standing>(`${this.base}/moves`, post({ seed: this.trying!.seed, moves }));
      this.moves = moves;
      return standing;
    },
    beckon: async (piece) => request<Beckoning>(`${this.base}/beckoning/${encodeURIComponent(piece)}`),
    mediaURL: (id) => `${this.base}/media/${id}`,
  });
}
