// What a learner's browser loads before the first piece can be moved, compressed
// as it is sent: the page, its scripts and styles and one font; not the engine,
// which comes when a piece is first dragged, and not the media.
import { readFileSync, readdirSync, statSync } from "node:fs";
import { join } from "node:path";

const built = new URL("../server/webui/dist/built/", import.meta.url).pathname;
const page = readFileSync(join(built, "play.html"), "utf8");
const files = ["play.html", ...[...page.matchAll(/(?:src|href)="\.?\/(assets\/[^"]+)"/g)].map((m) => m[1])];
const font = readdirSync(join(built, "assets")).find((f) => f.startsWith("atkinson-hyperlegible-next-latin-wght"));
let total = 0;
const sent = (name) => {
  const path = join(built, name);
  try {
    return statSync(path + ".br").size;
  } catch {
    return statSync(path).size;
  }
};
for (const name of [...files, `assets/${font}`]) {
  total += sent(name);
  console.log(`${String(sent(name)).padStart(8)}  ${name}`);
}
console.log(`${String(total).padStart(8)}  bytes: first load of the player (aim: under 150000)`);
