import { api, ask } from "../api/client";

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
