import type { Beckoning, Doc, Move, Rect, RichNode, Scene, SceneTarget } from "../api/types";
import { Runner, type Question } from "./runner";
import type {
  Chance,
  Class,
  Counted,
  Covers,
  Differs,
  Edit,
  Edited,
  Fact,
  Figures,
  LaneOpening,
  Learners,
  Rehearsed,
  Sample,
  Situation,
  Solved,
  Walk,
  Walked,
  Way,
  Worked,
  Sentence,
} from "./types";

export { EngineError, NotLoaded, Stopped, type Failure } from "./runner";
export * from "./types";

/** A document never changes; written once, it is not written again. */
const texts = new WeakMap<Doc, string>();
function textOf(doc: Doc): string {
  const text = texts.get(doc) ?? JSON.stringify(doc);
  texts.set(doc, text);
  return text;
}

/** Asks the core in its worker, which starts with the first question. */
class Engine {
  private runner = new Runner();

  /** What only looks at a document gets it by itself. */
  private ask<T>(question: string, input: unknown, document = "", more: Partial<Question> = {}): Promise<T> {
    return this.runner.ask({ question, input: JSON.stringify(input), document, ...more }) as Promise<T>;
  }

  /** A sitting of the document, or of the one made to demonstrate on. */
  rehearse(document: Doc, seed: number, moves: Move[], demonstrate = false, review = false): Promise<Rehearsed> {
    return this.ask("rehearse", { document, seed, moves, demonstrate, review });
  }

  /** What is known of a draft; latest gives up what was asked of an earlier one. */
  figures(document: Doc, latest?: "latest"): Promise<Figures> {
    return this.ask("figures", document, "", latest && { latest: "figures" });
  }

  /** A text as a tree, and a tree as a text: what an editor begins with, and what it came to. */
  readRich(text: string): Promise<RichNode[]> {
    return this.ask("readRich", { text });
  }
  writeRich(nodes: RichNode[]): Promise<string> {
    return this.ask("writeRich", { nodes });
  }

  edit(document: Doc, edit: Edit): Promise<Edited> {
    return this.ask("edit", { document, ...edit });
  }

  /** Ways to play that are set at once. */
  presets(): Promise<{ id: string; name: string; says: string }[]> {
    return this.ask("presets", {});
  }

  /** The evenly coloured area around a pixel of a picture in a frame on the board, as it is drawn as a target. */
  spot(
    pixels: { width: number; height: number; rgba: string },
    x: number,
    y: number,
    frame: Rect,
  ): Promise<NonNullable<Edit["drawing"]>> {
    return this.ask("spot", { pixels, x, y, frame });
  }

  /** Where pieces would stand in targets, at most so many in each. */
  samples(document: Doc, targets: string[], most: number): Promise<Record<string, Sample[]>> {
    return this.ask("samples", { document, targets, most });
  }

  /** What a cell, an item or a target is, in words. */
  tell(document: Doc, solution: number, item: string, target: string): Promise<Sentence> {
    return this.ask("tell", { solution, item, target }, textOf(document), { latest: "tell" });
  }

  /** How a demonstration differs from what is right: by an exchange, or against it. */
  exchange(document: Doc, solution: number, shown: Record<string, string[]>): Promise<Differs> {
    return this.ask("exchange", { solution, shown }, textOf(document));
  }

  mend(document: Doc, code: string, parts: string[], mend: string): Promise<Doc> {
    return this.ask("mend", { document, code, parts, mend });
  }

  /** Valid arrangements from one number on; done where there are no more. */
  ways(document: Doc, from: number, most: number): Promise<{ ways: Way[]; done: boolean }> {
    return this.ask("ways", { from, most }, textOf(document));
  }

  solve(document: Doc): Promise<Solved> {
    return this.ask("prove", { what: "solve" }, textOf(document));
  }
  count(document: Doc): Promise<Counted> {
    return this.ask("prove", { what: "count" }, textOf(document));
  }
  chance(document: Doc): Promise<Chance> {
    return this.ask("prove", { what: "chance" }, textOf(document));
  }
  replies(document: Doc): Promise<Covers> {
    return this.ask("prove", { what: "replies" }, textOf(document));
  }
  /** The shortest sitting found in which a reply is given; else the one that takes its place. */
  tryReply(document: Doc, reply: string): Promise<{ moves: Move[] | null; shadowed: string }> {
    return this.ask("prove", { what: "reply", reply }, textOf(document));
  }
  learners(document: Doc, learners: Learners, onProgress: (done: number) => void): Promise<Class> {
    return this.ask("prove", { what: "class", learners }, textOf(document), { onProgress });
  }

  examples(document: Doc): Promise<Worked[]> {
    return this.ask("examples", {}, textOf(document));
  }
  facts(document: Doc, situation: Situation): Promise<Fact[]> {
    return this.ask("facts", situation, textOf(document));
  }
  /** The moves of a sitting that plays itself: right, oneWrong, wrong or random. */
  selfPlay(document: Doc, how: string, seed: number): Promise<Move[]> {
    return this.ask("selfPlay", { how, seed }, textOf(document));
  }
  beckons(document: Doc, piece: string): Promise<Beckoning> {
    return this.ask("beckons", { piece }, textOf(document));
  }

  /** Ends what is being worked out; nobody hears of it any more. */
  stop() {
    this.runner.stop();
  }

  /** Goes on with a rehearsal of a series, or only looks where it stands. */
  walk(walk: Walk): Promise<Walked> {
    return this.ask("series", walk);
  }

  /** How a lane makes room for a piece held at (x, y) over it; own is the piece's own number among those in it. */
  opens(
    target: SceneTarget,
    stands: Rect[],
    sizes: { w: number; h: number }[],
    own: number,
    size: { w: number; h: number },
    x: number,
    y: number,
  ): Promise<LaneOpening> {
    return this.ask("opens", { target, stands, sizes, own, size, x, y }, "", { latest: "opens" });
  }

  /** The index of the target that a piece centred at (x, y) would fall on, or -1. */
  hit(scene: Scene, size: { w: number; h: number }, x: number, y: number): Promise<number> {
    return this.ask(
      "hit",
      {
        targets: scene.targets,
        size,
        x,
        y,
        hit: scene.hit,
        overlap: scene.overlap,
        reach: scene.reach,
      },
      "",
      { latest: "hit" },
    );
  }
}

export const engine = new Engine();
/** A second one for what takes longer, so that nothing else waits for it. */
export const prover = new Engine();
