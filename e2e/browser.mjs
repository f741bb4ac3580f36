// Starts headless Chromium for the journeys and the pictures.
import { spawn } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { chromium } from "playwright-core";

export const desk = { width: 1280, height: 800 };
export const phone = { width: 390, height: 844 };

export function launch() {
  return chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
}

/** A page of its own, with nothing remembered and nothing moving. */
export async function open(browser, address, options = {}) {
  const context = await browser.newContext({
    baseURL: address,
    viewport: desk,
    reducedMotion: "reduce",
    ...options,
  });
  return context.newPage();
}

/** The demo, on a shelf that nobody else has; `close` ends it and takes the shelf away. */
export async function serveDemo(binary) {
  const folder = await mkdtemp(join(tmpdir(), "keen-pitcher-"));
  const server = spawn(binary, ["demo", "--port", "0", "--data", folder], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  const ended = new Promise((done) => server.once("exit", done));
  const lines = createInterface({ input: server.stdout });
  const first = await Promise.race([
    new Promise((said) => lines.once("line", said)),
    ended.then((code) => Promise.reject(new Error(`the server ended with ${code}`))),
  ]);
  return {
    address: first.split(" ").at(-1),
    async close() {
      server.kill();
      await ended;
      await rm(folder, { recursive: true });
    },
  };
}
