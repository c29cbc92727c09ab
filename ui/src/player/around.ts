import type { Now, Standing } from "../api/types";

/** The origin of the page around this one, where it is in a frame that says so. */
function around(): string | undefined {
  if (window.parent === window) return undefined;
  const told = location.ancestorOrigins?.[0];
  if (told && told !== "null") return told;
  try {
    return new URL(document.referrer).origin;
  } catch {
    return undefined;
  }
}

const origin = around();

/** Tells the page around this one, and nobody else. */
function tell(type: string, what: Record<string, unknown>) {
  if (origin) window.parent.postMessage({ type, ...what }, origin);
}

/** Says how high the page would like to be, now and whenever that changes. */
export function tellSize(root: HTMLElement): (() => void) | undefined {
  if (!origin) return undefined;
  let last = 0;
  const say = () => {
    const height = Math.ceil(Math.max(root.scrollHeight, ...[...root.children].map((c) => c.scrollHeight)));
    if (height === last || height === 0) return;
    last = height;
    tell("magpie:resize", { height });
  };
  const watch = new ResizeObserver(say);
  watch.observe(root);
  const changes = new MutationObserver(say);
  changes.observe(root, { childList: true, subtree: true });
  say();
  return () => {
    watch.disconnect();
    changes.disconnect();
  };
}

/** Says how a sitting stands after an answer. */
export function tellProgress(after: Standing) {
  tell("magpie:progress", { progress: Number(after.progress), attempt: after.attempt, phase: after.phase });
  if (after.final) {
    const { score, percent, passed, outcome } = after.final;
    tell("magpie:finished", { score, percent, passed, outcome });
  }
}

/** Says how a series stands. */
export function tellSeries(now: Now) {
  tell("magpie:progress", { progress: Number(now.progress), step: now.at, steps: now.steps.length });
  if (now.total) {
    const { score, percent, passed } = now.total;
    tell("magpie:finished", { score, percent, passed });
  }
}
