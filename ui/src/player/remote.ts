import type { Move, Opening, Problem, Seated, Standing } from "../api/types";
import { Unreachable, type Judge } from "./judge";

/** The server refused a request, with the reason. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

async function request<T>(path: string, init: RequestInit = {}): Promise<T> {
  let response;
  try {
    response = await fetch(path, {
      ...init,
      headers: { "Content-Type": "application/json" },
      signal: AbortSignal.timeout(15000),
    });
  } catch (error) {
    throw new Unreachable(String(error));
  }
  if (response.status >= 500) throw new Unreachable(`status ${response.status}`);
  if (!response.ok) throw new Refused((await response.json()) as Problem);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

const post = (body: unknown): RequestInit => ({ method: "POST", body: JSON.stringify(body) });

/** A release by its link: the server keeps the sitting and judges it. */
export class HostedRelease implements Judge {
  private readonly base: string;
  /** Where this browser keeps moves of the sitting that are not yet answered. */
  readonly keep: string;

  constructor(readonly link: string) {
    this.base = `/api/play/${link}`;
    this.keep = `magpie-moves-${link}`;
  }

  opening = () => request<Opening>(this.base);
  begin = async (learner: string) => {
    const seated = await request<Seated>(`${this.base}/sittings`, post({ learner }));
    // What an earlier sitting could not send is not this learner's.
    localStorage.removeItem(this.keep);
    return seated;
  };
  leave = () => request<void>(`${this.base}/sitting`, { method: "DELETE" });
  act = (move: Move) => request<Standing>(`${this.base}/moves`, post(move));
  beckon = async (piece: string) =>
    (await request<{ targets: string[] }>(`${this.base}/beckoning/${encodeURIComponent(piece)}`)).targets;
  mediaURL = (id: string) => `${this.base}/media/${id}`;
}
