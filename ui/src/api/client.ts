import createClient from "openapi-fetch";
import type { paths } from "./schema";
import type { Problem } from "./types";
import { base } from "./address";

export const api = createClient<paths>({ baseUrl: base });

/** A request that the server answered with a problem, or that found no server. */
export class Failed extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const noServer: Problem = {
  status: 0,
  title: "No answer",
  code: "no-server",
  detail: "No connection to the server. What you see is still here. Try again in a moment.",
};

/** Who hears that the session is over: the page asks to sign in, and what is open stays. */
export const session = { onOver: () => {} };

/** Takes the data of an answer, or throws what went wrong as a Failed. */
export async function ask<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer;
  try {
    answer = await request;
  } catch {
    throw new Failed(noServer);
  }
  if (!answer.response.ok) {
    const p = answer.error as Partial<Problem> | undefined;
    if (p?.code === "not-signed-in") session.onOver();
    throw new Failed({
      status: answer.response.status,
      title: p?.title ?? "",
      code: p?.code ?? "unknown",
      detail: p?.detail ?? "Something went wrong. Saved work is safe.",
      faults: p?.faults,
      current: p?.current,
    });
  }
  return answer.data as T;
}

export function problemOf(error: unknown): Problem {
  return error instanceof Failed ? error.problem : { ...noServer, code: "unknown", detail: String(error) };
}
