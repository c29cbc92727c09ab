import { cases } from "../src/testing";

// Every module's tests are on this page; a test in Go opens it and takes each as one of its own.
declare global {
  interface Window {
    results?: { name: string; failure: string }[];
  }
}

for (const load of Object.values(import.meta.glob("../src/**/*.test.ts"))) await load();
const results: Window["results"] = [];
for (const { name, run } of cases) {
  let failure = "";
  try {
    await run();
  } catch (error) {
    failure = error instanceof Error ? error.message : String(error);
  }
  results.push({ name, failure });
}
window.results = results;
