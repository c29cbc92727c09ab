/** The tests of modules that know no page: unit/run.ts runs them in the browser. */
export const cases: { name: string; run: () => void | Promise<void> }[] = [];

export function test(name: string, run: () => void | Promise<void>) {
  cases.push({ name, run });
}

const said = (value: unknown) => JSON.stringify(value, (_, v: unknown) => (v === undefined ? "(undefined)" : v));

/** Fails where two values do not say the same. */
export function equal(got: unknown, want: unknown, what = "") {
  if (said(got) !== said(want)) throw new Error(`${what && what + ": "}got ${said(got)}, want ${said(want)}`);
}
