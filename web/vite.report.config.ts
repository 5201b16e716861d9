import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";

/** The finders' page, built by itself beside the application: a phone on a bad line fetches none of the rest. */
export default defineConfig({
  resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
  plugins: [react(), tailwindcss()],
  publicDir: false,
  build: { target: "es2023", emptyOutDir: false, rolldownOptions: { input: "report.html" } },
});
