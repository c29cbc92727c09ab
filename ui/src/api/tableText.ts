import { api, ask } from "./client";

/** The kinds of files that hold a table, for a file dialog. */
export const tableFiles = ".xlsx,.csv,.tsv,.txt,text/plain,text/csv,text/tab-separated-values";

/** The rows of a file as text, whichever kind of table it is and however its letters are written. */
export async function tableText(file: File): Promise<string> {
  const { text } = await ask(
    api.POST("/api/tables/text", {
      body: file as never,
      bodySerializer: (b) => b as never,
      headers: { "Content-Type": "application/octet-stream" },
    }),
  );
  return text;
}
