import { requestID } from "../api/request";
import { keep, kept, keptNames } from "../kit/kept";

// What is not yet saved is kept in this browser, so that closing it loses nothing. It
// belongs to the account that made it, and to the page that keeps it up to date: of two
// pages neither takes away what the other keeps.

/** A document as it was worked on; sent are the ids of saves whose answer may be lost. */
export type Unsaved<D> = { doc: D; revision: number; at: number; sent: string[] };

// Without locks a page is known again after a reload by what its tab keeps.
function pageID(): string {
  const made = requestID();
  if (navigator.locks) return made;
  try {
    return (sessionStorage.magpiePage ??= made) as string;
  } catch {
    return made;
  }
}
const page = pageID();
const lock = (of: string) => `magpie-page-${of}`;

// A page holds its lock as long as it is there. (Browsers lend locks to secure pages and
// localhost alone.)
void navigator.locks?.request(lock(page), () => new Promise(() => {}));

/** Whether another page that kept something is still there; without locks, whether it may be. */
async function isThere(of: string, at: number): Promise<boolean> {
  if (of === page) return false; // it was left for another view, and is come back to
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

  /**
   * The newest work that was left, by this page or one that is gone, now kept by this
   * page; nothing where it is not wanted any more by the time it is found.
   */
  async takeOver(isSaved: (doc: D) => boolean, isWanted: () => boolean): Promise<Unsaved<D> | undefined> {
    const left = keptNames(this.begin)
      .flatMap((name) => {
        const work = kept<Unsaved<D>>(name);
        return work ? [{ name, work }] : [];
      })
      .sort((a, b) => b.work.at - a.work.at);
    for (const { name, work } of left) {
      if (await isThere(name.slice(this.begin.length), work.at)) continue;
      if (!isWanted()) return undefined;
      if (isSaved(work.doc)) {
        keep(name, undefined);
        continue;
      }
      if (name !== this.begin + page && keep(this.begin + page, work)) keep(name, undefined);
      return work;
    }
    return undefined;
  }
}
