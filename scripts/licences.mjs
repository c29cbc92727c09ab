// Collects the licences of everything that ships in the program: Go modules, the
// interface's packages and fonts. Writes docs/third-party-licences.txt.
import { execSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

const run = (command, cwd = ".") => execSync(command, { cwd, encoding: "utf8", stdio: ["ignore", "pipe", "ignore"] });
const byText = new Map();

function take(name, dir) {
  const file = readdirSync(dir).find((f) => /^(licen[cs]e|copying)(\.|$)/i.test(f));
  const text = file ? readFileSync(join(dir, file), "utf8").replace(/\r/g, "").trim() : "(no licence file; see its package description)";
  byText.set(text, [...(byText.get(text) ?? []), name]);
}

const modules = run(`go list -deps -f '{{with .Module}}{{.Path}} {{.Version}} {{.Dir}}{{end}}' ./cmd/magpie`);
for (const line of [...new Set(modules.trim().split("\n"))].filter(Boolean).sort()) {
  const [path, version, dir] = line.split(" ");
  if (dir && path !== "keenmagpie") take(`${path} ${version} (Go)`, dir);
}
take("the Go standard library and wasm_exec.js", run("go env GOROOT").trim());

// By the lock file: what only a build needs is marked there, also where a package names it as a peer.
const { packages } = JSON.parse(readFileSync("ui/package-lock.json", "utf8"));
for (const [dir, p] of Object.entries(packages).sort()) {
  if (!dir || p.dev || p.devOptional || p.optional || !existsSync(join("ui", dir))) continue;
  take(`${dir.split("node_modules/").pop()}@${p.version} (npm)`, join("ui", dir));
}

const parts = [...byText].map(([text, names]) => `${names.join("\n")}\n\n${text}\n`);
writeFileSync("docs/third-party-licences.txt", parts.join(`\n${"-".repeat(78)}\n\n`));
console.log(`${byText.size} licence texts of ${[...byText.values()].flat().length} packages`);
