import { plural, t } from "@lingui/core/macro";
import { nameOfFile, uploadAll } from "../../kit/upload";
import { nothing, type DraftStore } from "./draft";
import { cardOf } from "./replies";

/** The largest size that has a picture's proportion. */
export function sizeOf({ width, height }: { width: number; height: number }, most: { w: number; h: number }) {
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
    store.setState({ asking: "table", table: tables[0] });
    if (tables.length === files.length) return [];
  }
  const todo = files
    .filter((f) => !tables.includes(f))
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  const say = (remark: string) => store.setState({ remark });
  const { kept, refused } = await uploadAll(todo, (n) => say(t`Uploaded ${n} of ${todo.length} files.`));
  const done = kept.map((k) => ({ ...k, name: nameOfFile(k.file.name) }));
  const says = done.length === 1 ? t`import ${done[0]!.file.name}` : t`import ${done.length} files`;
  const before = store.getState().doc.items;
  const made = done.length > 0 ? await takeUploaded(store, says, done) : nothing;
  if (!made) return []; // the remark says why; the files are kept in Media
  const media = new Set(done.map((d) => d.id));
  const has = (i: { picture: string; sound: string }) => media.has(i.picture) || media.has(i.sound);
  const ids = store
    .getState()
    .doc.items.filter((i) => has(i) || has(cardOf(store.getState().doc, i.id)?.say ?? { picture: "", sound: "" }))
    .map((i) => i.id);
  const matched = ids.filter((id) => before.some((i) => i.id === id)).length;
  const fresh = made.items.length;
  const words = [
    fresh > 0 ? plural(fresh, { one: "# new item in the tray", other: "# new items in the tray" }) : "",
    matched > 0 ? plural(matched, { one: "# item has its file", other: "# items have their files" }) : "",
    refused.length > 0 ? t`${refused.length} refused: ${refused.join(" ")}` : "",
  ].filter(Boolean);
  say(words.length > 0 ? `${words.join(". ")}.`.replace(/\.\.$/, ".") : "");
  return ids;
}

type Uploaded = { id: string; type: string; name: string; width: number; height: number };

/** The items of a range, in the order of the document. */
function inOrder(store: DraftStore): string[] {
  const { doc, selection } = store.getState();
  const chosen = doc.items.filter((i) => selection.items.includes(i.id)).map((i) => i.id);
  return chosen.length > 1 || store.getState().cards ? chosen : [];
}

/** Gives uploaded files to the items that are called so, or to a range in its order, and makes items of the others. */
export const takeUploaded = (store: DraftStore, says: string, files: Uploaded[]) =>
  store.getState().edit(says, {
    act: "takeFiles",
    cards: store.getState().cards,
    parts: { ...nothing, items: inOrder(store) },
    files: files.map(({ id, name, type, width, height }) => ({
      id,
      name,
      width,
      height,
      sound: type.startsWith("audio/"),
    })),
  });
