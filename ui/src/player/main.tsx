import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "../theme.css";
import { Player } from "./Player";

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <Player link={location.pathname.split("/")[2] ?? ""} />
  </StrictMode>,
);
