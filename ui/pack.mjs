// Puts the core beside the player of packages: compressed, as text in a script, since a page
// opened from a folder may load scripts and nothing else.
import { copyFileSync, readFileSync, writeFileSync } from "node:fs";
import { gzipSync } from "node:zlib";

const [, , wasm, exec, out] = process.argv;
const core = gzipSync(readFileSync(wasm), { level: 9 }).toString("base64");
writeFileSync(`${out}/core.js`, `window.magpieCore = "${core}";\n`);
copyFileSync(exec, `${out}/wasm_exec.js`);
