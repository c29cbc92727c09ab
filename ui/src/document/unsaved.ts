import { requestID } from "../api/request";
import { keep, kept, keptNames } from "../shared/kept";

// What is not yet saved is kept in this browser, so that closing it loses nothing. It
// belongs to the account that made it, and to the page that keeps it up to date: of two
// pages neither takes away what the other keeps.

/** A document as it was worked on; sent are the ids of saves whose answer may be lost. */
export type Unsaved<D> = { doc: D; revision: number; at: number; sent: string[] };

const page = requestID();
const lock = (of: string) => `magpie-page-${of}`;

// A page holds its lock as long as it is there. (Browsers lend locks to secure pages and
// localhost alone.)
void navigator.locks?.request(lock(page), () => new Promise(() => {}));

/** Whether the page that kept something is still there; without locks, whether it may be. */
async function isThere(of: string, at: number): Promise<boolean> {
  if (of === page) return true;
  if (!navigator.locks) return Date.now() - at < 60_000;
  const { held } = await navigator.locks.query();
  return held?.some((l) => l.name === lock(of)) ?? false;
}

export class UnsavedWork<D> {
  private readonly begin: string;

  constructor(account: string, form: string, id: string) {
    this.begin = `magpie-unsaved ${account} ${form} ${id} `;
  }

  keep(work: Omit<Unsaved<D>, "at">) {
    keep(this.begin + page, { ...work, at: Date.now() });
  }

  forget() {
    keep(this.begin + page, undefined);
  }

  /** The newest work that a page left which is gone, now kept by this page. */
  async takeOver(isSaved: (doc: D) => boolean): Promise<Unsaved<D> | undefined> {
    const left = keptNames(this.begin)
      .flatMap((name) => {
        const work = kept<Unsaved<D>>(name);
        return work ? [{ name, work }] : [];
      })
      .sort((a, b) => b.work.at - a.work.at);
    for (const { name, work } of left) {
      if (await isThere(name.slice(this.begin.length), work.at)) continue;
      if (isSaved(work.doc)) {
        keep(name, undefined);
        continue;
      }
      if (keep(this.begin + page, work)) keep(name, undefined);
      return work;
    }
    return undefined;
  }
}
