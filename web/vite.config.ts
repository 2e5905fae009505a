import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { gzipSync } from "node:zlib";
import react from "@vitejs/plugin-react";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig, type Plugin } from "vite";

/** Writes a compressed twin beside every script, style and the core; the server sends it as it is. */
function compress(): Plugin {
  return {
    name: "compress",
    apply: "build",
    closeBundle() {
      for (const name of readdirSync("dist/assets")) {
        if (!/\.(js|css|wasm)$/.test(name)) continue;
        const path = `dist/assets/${name}`;
        writeFileSync(`${path}.gz`, gzipSync(readFileSync(path), { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), compress()],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  // The placeholder that Go embeds before the first build stays where it is.
  build: { target: "es2022", emptyOutDir: false, assetsInlineLimit: 0 },
  server: { proxy: { "/api": process.env.NINEYARD_API ?? "http://127.0.0.1:8080" } },
});
