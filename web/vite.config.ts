import { readFile, readdir, writeFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { join } from "node:path";
import { promisify } from "node:util";
import { brotliCompress, constants, gzip } from "node:zlib";
import react from "@vitejs/plugin-react";
import type { Plugin } from "vite";
import { defineConfig } from "vitest/config";

/** The page on which the API's description is read: a reader from the registry, and where the description is. */
function apiDocs(): Plugin {
  const from = createRequire(import.meta.url);
  return {
    name: "api-docs",
    apply: "build",
    async generateBundle() {
      for (const name of ["swagger-ui.css", "swagger-ui-bundle.js"]) {
        const source = await readFile(from.resolve(`swagger-ui-dist/${name}`));
        this.emitFile({ type: "asset", fileName: `api-docs/${name}`, source });
      }
    },
  };
}

/** A compressed copy beside every file that is worth it: the program hands out what it finds. */
function compressed(): Plugin {
  const small = promisify(brotliCompress);
  const older = promisify(gzip);
  let folder = "";
  return {
    name: "compressed",
    apply: "build",
    configResolved(config) {
      folder = join(config.root, config.build.outDir);
    },
    async closeBundle() {
      const files = await readdir(folder, { recursive: true });
      const worth = files.filter((file) => /\.(js|css|svg)$/.test(file));
      await Promise.all(
        worth.map(async (file) => {
          const path = join(folder, file);
          const whole = await readFile(path);
          if (whole.length < 1000) return;
          // The best there is where it is waited for at every first visit, and a good one for the rest.
          const quality = file.startsWith("assets") ? 11 : 5;
          const params = { [constants.BROTLI_PARAM_QUALITY]: quality };
          await writeFile(`${path}.br`, await small(whole, { params }));
          await writeFile(`${path}.gz`, await older(whole, { level: 9 }));
        }),
      );
    },
  };
}

/** Tests of modules that keep something from one use to the next. */
const alone = ["house", "ticking", "unsent", "useBatch", "tasting/queries"].map(
  (name) => `**/${name}.test.{ts,tsx}`,
);

export default defineConfig({
  plugins: [react(), apiDocs(), compressed()],
  build: { target: "es2022", assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  // A thread begins sooner than a process. Loading the modules anew for each file takes most of the time, so the files
  // share them, but for those that replace what others use.
  test: {
    pool: "threads",
    projects: [
      {
        extends: true,
        test: { name: "shared", isolate: false, exclude: [...alone, "**/node_modules/**"] },
      },
      { extends: true, test: { name: "alone", include: alone } },
    ],
  },
  server: { proxy: { "/api": { target: "http://127.0.0.1:7340", changeOrigin: true } } },
});
