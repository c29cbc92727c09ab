import { Trouble } from "./platform";

// What both versions of SCORM have in common: where the platform's functions are, and how
// they are called.

/** The functions of a platform, by the names that a version gives them. */
type Functions = Record<string, ((...args: string[]) => string) | undefined>;

type Holder = Record<string, unknown> & { parent?: Holder; opener?: Holder };

const bound = 500;

/** Looks up through the windows around this one; one of another origin may not be looked into. */
function above(from: Holder | undefined, name: string): Functions | undefined {
  let at = from;
  for (let step = 0; at && step < bound; step++) {
    try {
      if (at[name]) return at[name] as Functions;
      if (at.parent === at) return undefined;
      at = at.parent;
    } catch {
      return undefined;
    }
  }
  return undefined;
}

/** The platform's functions: in a window around this one, or around the one that opened it. */
export function findFunctions(name: string): Functions | undefined {
  const here = window as unknown as Holder;
  const own = above(here, name);
  if (own) return own;
  try {
    return above(here.opener, name) ?? above(here.parent?.opener, name);
  } catch {
    return undefined;
  }
}

const commitEvery = 10_000;

/** Calls the functions, logs what is refused with its code, and commits now and then. */
export class Runtime {
  readonly trouble = new Trouble();
  private committed = performance.now();
  private pending: ReturnType<typeof setTimeout> | undefined;
  private over = false;

  constructor(
    private readonly functions: Functions,
    private readonly names: {
      initialize: string;
      terminate: string;
      get: string;
      set: string;
      commit: string;
      error: string;
    },
    /** What whoever plays is told when the platform does not take something. */
    private readonly refused: string,
  ) {}

  private call(name: string, ...args: string[]): string {
    try {
      return String(this.functions[name]?.(...args) ?? "");
    } catch (error) {
      console.warn(`${name}(${args.join(", ")}) failed:`, error);
      return "";
    }
  }

  start = () => this.call(this.names.initialize, "") === "true";
  get = (element: string) => this.call(this.names.get, element);

  set(element: string, value: string): boolean {
    if (this.over) return false;
    if (this.call(this.names.set, element, value) !== "false") return true;
    const code = this.call(this.names.error);
    console.warn(`The platform did not take ${element} (error ${code}): ${value.slice(0, 200)}`);
    this.trouble.say(this.refused);
    return false;
  }

  /** Commits at once, or at most every ten seconds. */
  commit(now: boolean) {
    if (this.over) return;
    const wait = this.committed + commitEvery - performance.now();
    if (now || wait <= 0) {
      clearTimeout(this.pending);
      this.pending = undefined;
      this.committed = performance.now();
      if (this.call(this.names.commit, "") === "false") {
        console.warn(`The platform did not commit (error ${this.call(this.names.error)})`);
        this.trouble.say(this.refused);
      }
    } else this.pending ??= setTimeout(() => this.commit(true), wait);
  }

  finish() {
    if (this.over) return;
    this.commit(true);
    this.over = true;
    this.call(this.names.terminate, "");
  }
}
