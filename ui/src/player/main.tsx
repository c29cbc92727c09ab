import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "./play.css";
import { drawTips } from "../kit/tip";
import { Player } from "./Player";
import { Stopped } from "./Stopped";
import { base } from "../api/address";
import { engine } from "../engine/engine";
import { GeometryProvider } from "./geometry";
import { HostedRelease, TriedDraft } from "./remote";

const [, kind, link = ""] = location.pathname.slice(base.length).split("/");
const draft = kind === "try";
const release = draft ? undefined : new HostedRelease(link);

drawTips();

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <Stopped>
      <GeometryProvider value={engine}>
        <Player
          host={release ?? new TriedDraft(link)}
          walk={release}
          draft={draft}
          room={new URLSearchParams(location.search).has("room")}
        />
      </GeometryProvider>
    </Stopped>
  </StrictMode>,
);
