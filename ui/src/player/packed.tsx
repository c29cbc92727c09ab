import { StrictMode, useSyncExternalStore } from "react";
import { createRoot } from "react-dom/client";
import "./play.css";
import { drawTips } from "../kit/tip";
import { wordsFor } from "../words/words";
import { GeometryProvider } from "./geometry";
import { PackedRelease } from "./hosts/packed";
import { Nowhere, type About, type Platform, type Trouble } from "./hosts/platform";
import { findFunctions, Runtime } from "./hosts/runtime";
import type {} from "./hosts/cmi5";
import { names12, Scorm12 } from "./hosts/scorm12";
import { names2004, Scorm2004 } from "./hosts/scorm2004";
import { VisitEngine } from "./hosts/visit";
import { Player } from "./Player";
import { Stopped } from "./Stopped";

declare global {
  interface Window {
    magpieHolds?: { as: string; about: About; media: Record<string, string> } & Record<string, unknown>;
  }
}

/** The platform around this page, by what the package was made for. */
async function platformFor(as: string, lang: string): Promise<Platform> {
  const w = wordsFor(lang);
  if (as === "cmi5") {
    try {
      return await window.magpieCmi5!({ lang, refused: w("notTaken") });
    } catch (error) {
      console.warn("No platform launched this:", error);
      return new Nowhere(w("noPlatform"));
    }
  }
  if (as === "scorm12" || as === "scorm2004") {
    const first = as === "scorm12";
    const functions = findFunctions(first ? "API" : "API_1484_11");
    const runtime = functions && new Runtime(functions, first ? names12 : names2004, w("notTaken"));
    if (runtime?.start()) return first ? new Scorm12(runtime) : new Scorm2004(runtime, lang);
    return new Nowhere(w("noPlatform"));
  }
  return new Nowhere("");
}

/** What is wrong with the platform, above everything. */
function Told({ trouble }: { trouble: Trouble }) {
  const text = useSyncExternalStore(trouble.hear, trouble.read);
  return (
    text && (
      <p role="status" className="border-b border-line bg-brass-soft px-4 py-1">
        {text}
      </p>
    )
  );
}

async function start() {
  const holds = window.magpieHolds!;
  const engine = await VisitEngine.load();
  engine.open(holds);
  const platform = await platformFor(holds.as, holds.about.lang);
  const release = new PackedRelease(engine, platform, (id) => holds.media[id] ?? "", holds.about.series);
  addEventListener("pagehide", release.end);
  const w = wordsFor(holds.about.lang);
  if (release.lost) platform.trouble.say(w(release.lost === "other-release" ? "keptOther" : "keptDamaged"));
  createRoot(document.getElementById("root")!).render(
    <StrictMode>
      <Stopped>
        <GeometryProvider value={engine}>
          <Told trouble={platform.trouble} />
          <Player host={release} walk={release} />
        </GeometryProvider>
      </Stopped>
    </StrictMode>,
  );
}

drawTips();
start().catch((error: unknown) => {
  // Nothing of the application is there to say it.
  const said = document.createElement("p");
  said.setAttribute("role", "alert");
  said.style.padding = "1rem";
  said.textContent = `${wordsFor(window.magpieHolds?.about.lang ?? "en")("noStart")} ${String(error)}`;
  document.body.replaceChildren(said);
});
