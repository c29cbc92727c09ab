import type {
  Condition,
  Doc,
  Going,
  Look,
  Move,
  Now,
  Rect,
  Reply,
  RichNode,
  Scene,
  Series,
  Standing,
} from "../api/types";

export type Verdict = {
  outcome: "right" | "part" | "wrong";
  solution: number;
  right: string[];
  wrong: string[];
  missing: string[];
  earned: string;
  available: string;
  fraction: string;
  scoredBy: number;
  score: string;
  percent: string;
};

/** One line of how a score is put together. */
export type Entry = { what: string; piece?: string; target?: string; points: string; of?: string; share?: number };

/** A condition of a reply that was looked at, and what was found. */
export type Looked = { at: string; holds: boolean; form: string; value: string; decides: boolean; said: Sentence };

/** Something that could be said of a situation, and whether an author most likely means that. */
export type Fact = { when: Condition; said: Sentence; telling: boolean };

/** What stands in the targets at a moment, and what was put down last. */
export type Situation = {
  targets: Record<string, string[]>;
  moment: string;
  attempt: number;
  piece?: string;
  target?: string;
  result?: string;
};

/** Where in the table of replies one stands: of an item that is right, or wrong, or in a target. */
export type Slot = { item: string; result: string; target: string; moment: string };

/** What a sitting scores, with how that came about. */
export type Worked = {
  code?: string;
  name: string;
  moves: Move[];
  impossible?: string;
  final?: { score: string; percent: string; outcome?: string; band?: string; passed: boolean };
  score?: TrailStep;
};

/** A reply with a sitting in which it is given, or the one that takes its place. */
export type Covered = {
  id: string;
  given: boolean;
  example?: { moves: Move[]; targets: Record<string, string[]>; attempt: number };
  shadowed?: string;
};
export type Silence = { outcome: string; last: boolean; some: boolean; example: { moves: Move[] } };
export type Covers = { replies: Covered[]; silent: Silence[]; findings: Finding[] };

export type TrailStep = {
  code: string;
  why?: string;
  piece?: string;
  item?: string;
  target?: string;
  pieces?: string[];
  index?: number;
  solution?: number;
  holds?: number;
  charge?: number;
  lacking?: number;
  verdict?: Verdict;
  entries?: Entry[];
  share?: number;
  hints?: number;
  text?: string;
  moment?: string;
  reply?: { reply: string; given: boolean; facts: Looked[] };
  field?: string;
};

export type RehearsedStep = { move: Move; result: string; reason?: string; target?: string; trail: TrailStep[] };
export type Rehearsed = { scene: Scene; standing: Standing; steps: RehearsedStep[] };

/** What replies are called, by id. */
export type Called = Record<string, Sentence>;

export type Known = {
  pieces: number;
  targets: number;
  nowhere: string[];
  cells: { right: Record<string, string[]>[]; lets: Record<string, string[]> };
  /** Whether each item must be placed, in words: by solution, in the order of the items. */
  must: Sentence[][];
  /** The draft with its orders and needs in line again, where that alone was wrong; and what went with that. */
  settled?: Doc;
  lost?: Sentence[];
  /** The tag that is proposed for each target; "" where there is none. */
  tagsFor: TagFor[];
  /** How items and targets look at each point at which they depart from the theme, by id. */
  looks: Record<"items" | "targets", Record<string, Record<string, Look>>>;
  /** The texts of replies as they are drawn, by id. */
  says: Record<string, RichNode[]>;
  /** The texts of the board as they are drawn, by scenery. */
  rich: Record<string, RichNode[]>;
  instructions: RichNode[] | null;
  /** The texts of hints as they are drawn, in order. */
  hints: (RichNode[] | null)[];
  /** When each reply is given, in words, and what must hold at its moment alone. */
  when: Sentence[];
  only: Sentence[];
  /** What replies are called, by id. */
  called: Called;
  /** The replies that have a place in the table, by number. */
  slots: Record<string, Slot>;
};

/** What the engine answers about a draft. */
export type Figures = Known & {
  /** Nobody has arranged the board yet: it is laid out by itself. */
  follows: boolean;
  /** How many items are there that the activity began with, unchanged. */
  samples: number;
};

export type TagFor = { tag: string; target: string };

/** Something that should be looked at, with the parts that it is about. */
export type Finding = {
  code: string;
  severity: "stop" | "warn" | "info";
  parts: string[];
  message: string;
  /** What would put it right. */
  mends: string[];
  at: { items: string[]; targets: string[]; scenery: string[] };
  replies?: string[];
};

export type Solved = {
  state: "not done yet" | "keyed";
  solvable: boolean;
  conflict?: { solution: number; items: string[]; targets: string[] };
  /** What putting every piece into a target comes to at best, where they all go in. */
  everythingIn?: { percent: string; valid: boolean; full: boolean };
  findings: Finding[];
};
export type Counted = { count: string; exact: boolean };
export type Chance = {
  valid: string;
  meanPercent: string;
  exact: boolean;
  /** Between which percents both lie, where they were drawn. */
  interval?: { valid: [number, number]; meanPercent: [number, number] };
};
export type Class = {
  number: number;
  scores: number[];
  attempts: Record<string, number>;
  right: number;
  passed: number;
  meanPercent: string;
  moves: number[];
  /** To how many learners each reply was given. */
  replies: Record<string, number>;
  /** Where pieces ended up whose place was not known: by item, then target, or "" for home. */
  guessed: Record<string, Record<string, number>>;
};
export type Learners = { number: number; ability: number; seed: number };

/** A valid arrangement, and where its pieces stand. */
export type Way = { solution: number; targets: Record<string, string[]>; stands: Record<string, Rect> };

/** How a lane makes room for a piece held over it: its place among the others, where those stand then, where it would. */
export type LaneOpening = { index: number; stands: Rect[]; gap: Rect };

/** A rehearsal of a series: where it stands, the sittings of its steps (null where none was begun), and where to go. */
export type Walk = {
  series: Series;
  activities: Record<string, Doc>;
  at: number;
  reached: number;
  sittings: ({ seed: number; moves: Move[] } | null)[];
  going?: Going;
};
/** Where it stands then; gone is null where going there is not possible. */
export type Walked = {
  gone: { at: number; reached: number; aside: number; redo: number[] } | null;
  now: Now;
  /** The step begins with a new sitting. */
  fresh: boolean;
  page: RichNode[] | null;
  /** What is played at the step. */
  document?: Doc;
};

export type Need = Doc["key"]["solutions"][number]["needs"][number];
export type Order = Doc["key"]["solutions"][number]["orders"][number];
export type Asking = { how: "all" | "may" | "exactly" | "atLeast" | "atMost"; n: number };
export type Differs = { exchange: Exchange | null; against: boolean };
/** By which exchange of pieces a demonstration differs from what is right. */
export type Exchange = { items: string[]; targets: string[]; each: Record<string, number> };

export type Say = Reply["say"];

/** Something new on the board. */
export type Drawing = {
  what: string;
  frame?: Rect;
  points?: [number, number][];
  name?: string;
  picture?: string;
  tie?: string;
};

/** What an item or a target shows. */
export type Face = {
  item: string;
  target: string;
  name: string;
  text: string;
  picture: string;
  alt: string;
  sound: string;
  transcript: string;
};

/** Where a piece of an item would stand in a target. */
export type Sample = { item: string; frame: Rect };

export type Parts = { items: string[]; targets: string[]; scenery: string[] };

/** An act of the workbench that the core carries out. */
export type Edit = {
  act: string;
  parts?: Parts;
  names?: string[];
  /** The names are somebody's content: the samples that the activity began with go. */
  own?: boolean;
  /** The files are pictures and sounds of the items' cards. */
  cards?: boolean;
  files?: { id: string; name: string; sound: boolean; width: number; height: number }[];
  /** What to line up to, or what to make parts into. */
  to?: string;
  first?: { kind: string; id: string };
  drawing?: Drawing;
  /** The document whose parts are put in, and how far they are moved. */
  from?: Doc;
  dx?: number;
  dy?: number;
  faces?: Face[];
  /** What changes of what is said. */
  say?: Partial<Say>;
  /** Of acts on the key: which solution (-1: who is let in), and what they need. */
  solution?: number;
  tag?: string;
  on?: boolean;
  rows?: { item: string; targets: string[] }[];
  asking?: Asking;
  needs?: Need[];
  order?: Order | null;
  shown?: Record<string, string[]>;
  spots?: { item: string; frame: Rect }[];
  pairs?: TagFor[];
  slots?: Slot[];
  /** A new one; or the id of one, with its new condition. */
  reply?: Partial<Reply>;
  seed?: number;
  moves?: Move[];
};
/** A sentence, or a part of one, by its code and in English. */
export type Sentence = { message: string; line: { code: string; params?: Record<string, unknown> } };
export type Edited = {
  document: Doc;
  made: { [kind in keyof Parts]: string[] | null };
  lost: Sentence[];
  /** What else had to change, in sentences. */
  told?: Sentence[];
  /** The solution that was made or changed, and the reply that was made. */
  solution?: number;
  reply?: string;
};
