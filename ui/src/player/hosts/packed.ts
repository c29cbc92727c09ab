import type { Begun, Going, Move, Standing, View } from "../../api/types";
import type { Bench, Host, Walk } from "../judge";
import type { Interaction, Platform } from "./platform";
import { VisitError, type VisitEngine } from "./visit";

const most53 = 2 ** 53;

/** What a package holds, before a platform: the core in the page judges, the platform is told. */
export class PackedRelease implements Host, Walk {
  readonly alone = true;
  back = () => this.platform.back;
  /** Why what the platform kept could not be gone on with. */
  lost = "";

  constructor(
    private readonly engine: VisitEngine,
    private readonly platform: Platform,
    private readonly mediaOf: (id: string) => string,
    private readonly isSeries: boolean,
  ) {
    if (platform.memory === undefined) return;
    try {
      engine.recall(platform.memory);
    } catch (error) {
      // Nothing is guessed: it starts from the beginning, and says why.
      this.lost = error instanceof VisitError ? error.code : "damaged";
    }
  }

  opening = async () => this.engine.opening(Date.now());

  begin = async (): Promise<Begun> => {
    const seed = Math.floor(Math.random() * most53);
    this.engine.begin(seed, Date.now());
    const begun = this.isSeries ? {} : { sitting: this.engine.seated(0, Date.now()) };
    this.tell([]);
    return begun as Begun;
  };

  leave = async () => {};

  go = async (to: Going): Promise<View> => {
    const view = this.engine.go(to, Date.now());
    this.tell([]);
    return view;
  };
  now = async () => this.engine.now();
  mediaURL = (id: string) => this.mediaOf(id);

  bench = (step: number): Bench => ({
    act: async (move: Move): Promise<Standing> => {
      const { standing, interactions } = this.engine.move(step, move);
      this.tell(interactions);
      return standing;
    },
    beckon: async (piece) => this.engine.beckon(step, piece),
    mediaURL: this.mediaURL,
  });

  /** Tells the platform how it stands, and what to keep. */
  private tell(interactions: Interaction[]) {
    const { memory, fits } = this.engine.remember(this.platform.most === Infinity ? 1 << 20 : this.platform.most);
    this.platform.tell(this.engine.report(), interactions, fits ? memory : undefined);
  }

  /** The page goes. */
  end = () => this.platform.leave(this.engine.report());
}
