import type { Beckoning, Going, Move, Now, Opening, Seated, Standing, View } from "../../api/types";
import type { Geometry, LaneOpening } from "../geometry";
import type { Interaction, Report } from "./platform";

declare global {
  interface Window {
    /** The core, compressed, as text: a page from a folder may load scripts and nothing else. */
    magpieCore?: string;
    magpieVisit?: (question: string, query: string) => string;
    Go?: new () => { importObject: WebAssembly.Imports; run(instance: WebAssembly.Instance): Promise<void> };
  }
}

/** The core refused, with a code. */
export class VisitError extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

async function bytesOf(text: string): Promise<ArrayBuffer> {
  const packed = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
  const unpacked = new Blob([packed]).stream().pipeThrough(new DecompressionStream("gzip"));
  return new Response(unpacked).arrayBuffer();
}

/** The core in this page: it keeps one visit, and answers at once. */
export class VisitEngine implements Geometry {
  static async load(): Promise<VisitEngine> {
    const go = new window.Go!();
    const { instance } = await WebAssembly.instantiate(await bytesOf(window.magpieCore!), go.importObject);
    void go.run(instance);
    delete window.magpieCore;
    return new VisitEngine();
  }

  private ask<T>(question: string, query: unknown): T {
    const said = JSON.parse(window.magpieVisit!(question, JSON.stringify(query))) as {
      answer?: T;
      error?: { code: string; message: string };
    };
    if (said.error) throw new VisitError(said.error.code, said.error.message);
    return said.answer as T;
  }

  open = (holds: unknown) => this.ask<true>("open", holds);
  opening = (now: number) => this.ask<Opening>("opening", { now });
  recall = (memory: string) => this.ask<true>("recall", { memory });
  begin = (seed: number, now: number) => this.ask<true>("begin", { seed, now });
  seated = (step: number, now: number) => this.ask<Seated>("seated", { step, now });
  move = (step: number, move: Move) =>
    this.ask<{ standing: Standing; report: Report; interactions: Interaction[] }>("move", { step, move });
  beckon = (step: number, piece: string) => this.ask<Beckoning>("beckon", { step, piece });
  go = (going: Going, now: number) => this.ask<View>("go", { going, now });
  now = () => this.ask<Now>("now", {});
  report = () => this.ask<Report>("report", {});
  remember = (most: number) => this.ask<{ memory: string; fits: boolean }>("remember", { most });

  hit: Geometry["hit"] = async (scene, size, x, y) =>
    this.ask<number>("hit", {
      targets: scene.targets,
      size,
      x,
      y,
      hit: scene.hit,
      overlap: scene.overlap,
      reach: scene.reach,
    });
  opens: Geometry["opens"] = async (target, stands, sizes, own, size, x, y) =>
    this.ask<LaneOpening>("opens", { target, stands, sizes, own, size, x, y });
}
