import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "../theme.css";
import { Player } from "./Player";

const [, kind, link = ""] = location.pathname.split("/");

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <Player link={link} draft={kind === "try"} room={new URLSearchParams(location.search).has("room")} />
  </StrictMode>,
);
