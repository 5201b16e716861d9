import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { FinderPage } from "@/features/finder";
import "./styles.css";

const address = location.pathname.split("/")[2] ?? "";

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <FinderPage address={address} />
  </StrictMode>,
);
