import engineURL from "./generated/engine.wasm?url";
import type { Fault } from "../api/types";

export type Failure = { code: string; message: string; faults?: Fault[]; parts?: string[] };

/** What the engine answers when a question has no answer. */
export class EngineError extends Error {
  constructor(readonly failure: Failure) {
    super(failure.message);
  }
}

/** A question that was given up, or that a later one took the place of. */
export class Stopped extends Error {}

/** The engine could not be fetched: no connection, or a newer version of the application is there. */
export class NotLoaded extends Error {}

export type Question = {
  question: string;
  input: string;
  /** What only looks at a document gets it by itself. */
  document: string;
  /** Of questions that wait under one name, only the latest is asked. */
  latest?: string;
  onProgress?: (done: number) => void;
};
type Waiting = Question & { resolve: (answer: unknown) => void; reject: (error: Error) => void };
type Heard = { output?: string; progress?: number; gone?: string };

let compiled: Promise<WebAssembly.Module> | undefined;

/** The engine is fetched and compiled once for all workers; what failed is tried again by whoever asks next. */
function engineModule(): Promise<WebAssembly.Module> {
  compiled ??= WebAssembly.compileStreaming(fetch(engineURL)).catch((error: unknown) => {
    compiled = undefined;
    throw new NotLoaded("The engine could not be loaded. Reload the page. Your work is kept.", { cause: error });
  });
  return compiled;
}

/** Asks a worker one question after the other, and starts another worker when one ends. */
export class Runner {
  private worker: Worker | undefined;
  private queue: Waiting[] = [];
  private now: Waiting | undefined;

  ask(question: Question): Promise<unknown> {
    const answer = new Promise<unknown>((resolve, reject) => {
      const { latest } = question;
      const earlier = latest ? this.queue.findIndex((w) => w.latest === latest) : -1;
      if (earlier >= 0) this.queue.splice(earlier, 1)[0]!.reject(new Stopped());
      this.queue.push({ ...question, resolve, reject });
    });
    void this.goOn();
    return answer;
  }

  private async goOn() {
    if (this.now || this.queue.length === 0) return;
    const asked = (this.now = this.queue.shift()!);
    try {
      const module = await engineModule();
      if (this.now !== asked) return; // stopped meanwhile
      this.worker ??= this.start(module);
      const { question, input, document } = asked;
      this.worker.postMessage({ question, input, document });
    } catch (error) {
      if (this.now === asked) this.answered((w) => w.reject(error as Error));
    }
  }

  private start(module: WebAssembly.Module): Worker {
    const worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    const lost = (error: Error) => {
      if (this.worker !== worker) return;
      worker.terminate();
      this.worker = undefined;
      this.answered((w) => w.reject(error));
    };
    worker.onerror = (e) => {
      e.preventDefault();
      // What has no message could not even be fetched.
      lost(
        e.message
          ? crashed(e.message)
          : new NotLoaded("The engine could not be started. Reload the page. Your work is kept."),
      );
    };
    worker.onmessage = ({ data }: MessageEvent<Heard>) => {
      if (this.worker !== worker) return;
      if (data.gone !== undefined) return lost(crashed(data.gone));
      if (data.progress !== undefined) return this.now?.onProgress?.(data.progress);
      const output = JSON.parse(data.output!) as { answer?: unknown; error?: Failure };
      this.answered((w) => (output.error ? w.reject(new EngineError(output.error)) : w.resolve(output.answer)));
    };
    worker.postMessage({ module });
    return worker;
  }

  private answered(tell: (waiting: Waiting) => void) {
    const asked = this.now;
    this.now = undefined;
    if (asked) tell(asked);
    void this.goOn();
  }

  /** Ends what is being worked out and what waits; nobody hears of it any more. */
  stop() {
    this.worker?.terminate();
    this.worker = undefined;
    const given = [...(this.now ? [this.now] : []), ...this.queue];
    this.now = undefined;
    this.queue = [];
    for (const w of given) w.reject(new Stopped());
  }
}

const crashed = (why: string) =>
  new EngineError({
    code: "engine-ended",
    message: `Something went wrong in the engine, and it was started again. Your work is kept. (${why})`,
  });
