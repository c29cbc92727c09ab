import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "../theme.css";
import { drawTips } from "../kit/tip";
import { Player } from "./Player";
import { Stopped } from "./Stopped";
import { base } from "../api/address";

const [, kind, link = ""] = location.pathname.slice(base.length).split("/");

drawTips();

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <Stopped>
      <Player link={link} draft={kind === "try"} room={new URLSearchParams(location.search).has("room")} />
    </Stopped>
  </StrictMode>,
);
