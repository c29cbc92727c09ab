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

/** The platform around a package: what it kept for this learner, and what it is told. */
export interface Platform {
  /** What it kept; absent at the first time. looking: nothing may be changed any more. */
  readonly memory: string | undefined;
  readonly looking: boolean;
  /** How many characters it keeps. */
  readonly most: number;
  /** What is wrong with it, in one sentence for whoever plays. */
  readonly trouble: string;
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
  constructor(readonly trouble: string) {}
  tell() {}
  leave() {}
}
