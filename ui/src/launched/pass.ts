import createClient from "openapi-fetch";
import { base } from "../api/address";
import { ask } from "../api/client";
import type { paths } from "../api/schema";
import type { Admitted } from "../api/types";
import { keepInTab, keptInTab } from "../kit/kept";

/** What a page that was opened from a course may do, by what it got for its ticket. */
const name = "magpie-pass";

export const api = createClient<paths>({ baseUrl: base || undefined });

api.use({
  onRequest({ request }) {
    const { pass } = kept() ?? {};
    if (pass) request.headers.set("Magpie-Pass", pass);
    return request;
  },
});

function kept(): (Admitted & { ticket: string }) | undefined {
  const text = keptInTab(name);
  return text ? (JSON.parse(text) as Admitted & { ticket: string }) : inPage;
}

/** Where a frame may keep nothing at all, the page still knows. */
let inPage: (Admitted & { ticket: string }) | undefined;

/** Takes the ticket that the page was opened with, or goes on with what it got for it before. */
export async function admitted(kind: "choose" | "see"): Promise<Admitted> {
  const ticket = new URLSearchParams(location.search).get("ticket") ?? "";
  const before = kept();
  if (before?.ticket === ticket) return before;
  const got = await ask(api.POST("/api/launched", { body: { ticket, kind } }));
  inPage = { ...got, ticket };
  keepInTab(name, JSON.stringify(inPage));
  return got;
}
