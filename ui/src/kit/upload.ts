import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import { tell } from "./notices";

export type Uploaded = { id: string; type: string; width: number; height: number };

/** Keeps a picture or a sound in the workspace. */
export function upload(file: Blob, name: string): Promise<Uploaded> {
  return ask(
    api.POST("/api/media", {
      params: { query: { name: name.slice(0, 200) } },
      body: file as unknown as string,
      bodySerializer: (body) => body as unknown as BodyInit,
      headers: { "Content-Type": "application/octet-stream" },
    }),
  );
}

/** What a file is called as an item: "brake-lever_2.png" is "Brake lever 2". */
export function nameOfFile(file: string): string {
  const words = file
    .replace(/\.[^.]*$/, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

const atOnce = 4;

/** What was kept of some files, in their order, and why others were not. */
export type Uploads = { kept: (Uploaded & { file: File })[]; refused: string[] };

/** Keeps files in the workspace, some at a time; one that is refused stops none of the rest. */
export async function uploadAll(files: File[], onDone: (kept: number) => void = () => {}): Promise<Uploads> {
  const kept = new Map<File, Uploaded>();
  const refused: string[] = [];
  const queue = [...files];
  const work = async () => {
    for (let file = queue.shift(); file; file = queue.shift()) {
      try {
        kept.set(file, await upload(file, file.name));
      } catch (error) {
        refused.push(`${file.name}: ${problemOf(error).detail}`);
      }
      onDone(kept.size);
    }
  };
  await Promise.all(Array.from({ length: atOnce }, work));
  return { kept: files.flatMap((file) => (kept.has(file) ? [{ file, ...kept.get(file)! }] : [])), refused };
}

/** Keeps files, and tells which were refused. */
export async function uploadAndTell(files: File[], onDone?: (kept: number) => void): Promise<Uploads["kept"]> {
  const { kept, refused } = await uploadAll(files, onDone);
  const more = refused.length > 1 ? ` ${t`${refused.length - 1} more could not be kept.`}` : "";
  if (refused[0]) tell(refused[0] + more);
  return kept;
}
