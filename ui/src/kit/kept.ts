// What a browser keeps for a page. It can be full, or forbidden altogether: then nothing is
// kept, and nothing else stops.

/** Reads what was kept under a name; undefined where there is none or it cannot be read. */
export function kept<T>(name: string): T | undefined {
  try {
    const text = localStorage.getItem(name);
    return text === null ? undefined : (JSON.parse(text) as T);
  } catch {
    return undefined;
  }
}

/** Keeps a value under a name; undefined takes it away. False where it could not be kept. */
export function keep(name: string, value: unknown): boolean {
  try {
    if (value === undefined) localStorage.removeItem(name);
    else localStorage.setItem(name, JSON.stringify(value));
    return true;
  } catch {
    return false;
  }
}

/** The names of all that is kept that begin so. */
export function keptNames(begin: string): string[] {
  try {
    return Object.keys(localStorage).filter((name) => name.startsWith(begin));
  } catch {
    return [];
  }
}

/** What is kept as long as the tab is open; "" where there is nothing, or nothing may be kept. */
export function keptInTab(name: string): string {
  try {
    return sessionStorage.getItem(name) ?? "";
  } catch {
    return "";
  }
}

/** Keeps a text as long as the tab is open, where that is possible. */
export function keepInTab(name: string, text: string | undefined) {
  try {
    if (text === undefined) sessionStorage.removeItem(name);
    else sessionStorage.setItem(name, text);
  } catch {
    // then it is known to the page alone
  }
}
