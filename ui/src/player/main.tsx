import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "../theme.css";
import { Player } from "./Player";
import { Stopped } from "./Stopped";

const [, kind, link = ""] = location.pathname.split("/");

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <Stopped>
      <Player link={link} draft={kind === "try"} room={new URLSearchParams(location.search).has("room")} />
    </Stopped>
  </StrictMode>,
);
