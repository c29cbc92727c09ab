/** How it stands as a whole, as the core reports it; numbers are decimals. */
export type Report = {
  begun: boolean;
  done: boolean;
  scored: boolean;
  score: string;
  points: string;
  percent: string;
  passMark?: string;
  passed: boolean;
  band?: string;
  progress: string;
};

/** What stood in one target at a check. */
export type Interaction = {
  step: number;
  id: string;
  kind: "matching" | "sequencing";
  title: string;
  answer: string[];
  correct: string[][];
  result: "right" | "part" | "wrong";
  weight: number;
  at: number;
  latency: number;
  attempt: number;
  names: Record<string, string>;
};

/** What a package is told about itself when it is made. */
export type About = { id: string; title: string; lang: string; series: boolean };

/** What is wrong, in one sentence, and who wants to know of it: only what comes first is told. */
export class Trouble {
  private readonly heard = new Set<() => void>();
  constructor(private text = "") {}

  say(text: string) {
    if (this.text) return;
    this.text = text;
    this.heard.forEach((f) => f());
  }
  read = () => this.text;
  hear = (f: () => void) => {
    this.heard.add(f);
    return () => void this.heard.delete(f);
  };
}

/** The platform around a package: what it kept for this learner, and what it is told. */
export interface Platform {
  /** What it kept; absent at the first time. looking: nothing may be changed any more. */
  readonly memory: string | undefined;
  readonly looking: boolean;
  /** Where it wants whoever it launched to come back to. */
  readonly back?: string;
  /** How many characters it keeps. */
  readonly most: number;
  /** What is wrong with it, which whoever plays is told once. */
  readonly trouble: Trouble;
  /** How it stands now; interactions are those of a check just made. */
  tell(report: Report, interactions: Interaction[], memory: string | undefined): void;
  /** Writes down for good what was told; at once, or when the page goes. */
  leave(report: Report): void;
}

/** A package that nothing is around: it is played, and nothing is kept beyond this browser. */
export class Nowhere implements Platform {
  readonly memory = undefined;
  readonly looking = false;
  readonly most = Infinity;
  readonly trouble: Trouble;
  constructor(trouble: string) {
    this.trouble = new Trouble(trouble);
  }
  tell() {}
  leave() {}
}
