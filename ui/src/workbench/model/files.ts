import { uploadAll } from "../../kit/upload";
import { nothing, type DraftStore } from "./draft";

/** What a file is called as an item: "brake-lever_2.png" is "Brake lever 2". */
export function nameOfFile(file: string): string {
  const words = file
    .replace(/\.[^.]*$/, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** All new pieces are of this size at most, the picture's proportion kept. */
const box = { w: 120, h: 112 };
/** The size of a new piece with a picture. */
export function sizeOf({ width, height }: { width: number; height: number }, most = box) {
  const scale = width && height ? Math.min(most.w / width, most.h / height) : 0;
  return scale
    ? { w: Math.max(24, Math.round(width * scale)), h: Math.max(24, Math.round(height * scale)) }
    : { ...most };
}

/**
 * One item for each picture or sound file, named from the file, in the order of their
 * names, in the tray; a file that is called like an item becomes that item's picture or
 * sound, and files with one name become one item. A file that is refused is told with
 * the reason, and the rest go on. Returns the items, in order.
 */
export async function takeFiles(store: DraftStore, files: File[]): Promise<string[]> {
  if (files.length === 0) return [];
  const tables = files.filter((f) => /\.(csv|tsv|txt|xlsx)$/i.test(f.name));
  if (tables[0]) {
    store.setState({ asking: "table", tableFile: tables[0] });
    if (tables.length === files.length) return [];
  }
  const todo = files
    .filter((f) => !tables.includes(f))
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  const say = (remark: string) => store.setState({ remark });
  const { kept, refused } = await uploadAll(todo, (n) => say(`Uploaded ${n} of ${todo.length} files.`));
  const done = kept.map((k) => ({ ...k, name: nameOfFile(k.file.name) }));

  const merge = `files ${Date.now()}`;
  const says = `take in ${done.length === 1 ? done[0]!.file.name : `${done.length} files`}`;
  const key = (name: string) => name.toLowerCase();
  const known = new Map(store.getState().doc.items.map((i) => [key(i.name), i.id]));
  const names = [...new Map(done.filter((d) => !known.has(key(d.name))).map((d) => [key(d.name), d.name])).values()];
  const made = names.length > 0 ? await store.getState().edit(says, { act: "addItems", names }, merge) : nothing;
  if (!made) return []; // the remark says why; the files are kept in Media
  const fresh = new Map(names.map((name, i) => [key(name), made.items[i]!]));
  const matched = new Set(done.flatMap((d) => known.get(key(d.name)) ?? []));
  store.getState().change({
    says,
    merge,
    apply: (doc) => {
      for (const d of done) {
        const id = known.get(key(d.name)) ?? fresh.get(key(d.name));
        const item = doc.items.find((i) => i.id === id);
        if (!item) continue;
        if (d.type.startsWith("audio/")) {
          item.sound = d.id;
          continue;
        }
        item.picture = d.id;
        if (!fresh.has(key(d.name))) continue; // its frame stays
        item.text = "";
        item.alt = d.name;
        item.size = sizeOf(d);
      }
    },
  });
  const words = [
    names.length > 0 ? `${names.length} new ${names.length === 1 ? "item" : "items"} in the tray` : "",
    matched.size > 0 ? `${matched.size} ${matched.size === 1 ? "item has its file" : "items have their files"}` : "",
    refused.length > 0 ? `${refused.length} refused: ${refused.join(" ")}` : "",
  ].filter(Boolean);
  say(words.length > 0 ? `${words.join(". ")}.`.replace(/\.\.$/, ".") : "");
  return done.flatMap((d) => known.get(key(d.name)) ?? fresh.get(key(d.name)) ?? []);
}
