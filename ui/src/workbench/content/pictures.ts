import { api, ask, problemOf } from "../../api/client";
import { nothing, type DraftStore } from "../draft";

type Uploaded = { file: File; name: string; id: string; width: number; height: number };

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
const atOnce = 4;

/**
 * One item for each picture file, named from the file, in the order of their names, in the tray; a file that is
 * called like an item gives it its picture. A file that is refused is told with the reason, and the rest go on.
 */
export async function takePictures(store: DraftStore, files: File[]): Promise<void> {
  if (files.length === 0) return;
  const todo = [...files].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  const done: Uploaded[] = [];
  const refused: string[] = [];
  const say = (remark: string) => store.setState({ remark });
  const queue = [...todo];
  const work = async () => {
    for (let file = queue.shift(); file; file = queue.shift()) {
      try {
        const kept = await ask(
          api.POST("/api/media", {
            body: file as unknown as string,
            bodySerializer: (body) => body as unknown as BodyInit,
            headers: { "Content-Type": "application/octet-stream" },
          }),
        );
        done.push({ file, name: nameOfFile(file.name), ...kept });
      } catch (error) {
        refused.push(`${file.name}: ${problemOf(error).detail}`);
      }
      say(`${done.length} of ${todo.length} pictures are here.`);
    }
  };
  await Promise.all(Array.from({ length: atOnce }, work));
  done.sort((a, b) => todo.indexOf(a.file) - todo.indexOf(b.file));

  const merge = `pictures ${Date.now()}`;
  const says = done.length === 1 ? `the picture ${done[0]!.file.name}` : `${done.length} pictures`;
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  const known = store.getState().doc.items;
  const matched = new Map(
    done.flatMap((d) => {
      const item = known.find((i) => same(i.name, d.name));
      return item ? [[d, item.id] as const] : [];
    }),
  );
  const fresh = done.filter((d) => !matched.has(d));
  const names = fresh.map((d) => d.name);
  const made =
    fresh.length > 0 ? await store.getState().edit(`take in ${says}`, { act: "addItems", names }, merge) : nothing;
  store.getState().change({
    says: `take in ${says}`,
    merge,
    apply: (doc) => {
      for (const d of done) {
        const id = matched.get(d) ?? made.items[fresh.indexOf(d)];
        const item = doc.items.find((i) => i.id === id);
        if (!item) continue;
        item.picture = d.id;
        if (matched.has(d)) continue; // its frame stays
        item.text = "";
        item.alt = d.name;
        const scale = d.width && d.height ? Math.min(box.w / d.width, box.h / d.height) : 0;
        item.size = scale
          ? { w: Math.max(24, Math.round(d.width * scale)), h: Math.max(24, Math.round(d.height * scale)) }
          : { ...box };
      }
    },
  });
  const words = [
    fresh.length > 0 ? `${fresh.length} new ${fresh.length === 1 ? "item" : "items"} in the tray` : "",
    matched.size > 0 ? `${matched.size} ${matched.size === 1 ? "item has its" : "items have their"} picture` : "",
    refused.length > 0 ? `${refused.length} refused: ${refused.join(" ")}` : "",
  ].filter(Boolean);
  say(words.length > 0 ? `${words.join(". ")}.`.replace(/\.\.$/, ".") : "");
}
