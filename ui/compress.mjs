// Compresses what was built, once, so that the server only has to send it.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const root = "../server/webui/dist/built";
for (const name of readdirSync(root, { recursive: true })) {
  if (!/\.(js|css|html|svg|wasm)$/.test(name)) continue;
  const body = readFileSync(join(root, name));
  writeFileSync(join(root, name + ".gz"), gzipSync(body, { level: 9 }));
  const quality = body.length > 1 << 20 ? 9 : 11;
  writeFileSync(
    join(root, name + ".br"),
    brotliCompressSync(body, { params: { [constants.BROTLI_PARAM_QUALITY]: quality } }),
  );
}
