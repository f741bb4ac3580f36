// Starts headless Chromium for the journeys and the pictures.
import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { cp, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { chromium } from "@playwright/test";

export const desk = { width: 1280, height: 800 };
export const phone = { width: 390, height: 844 };

/** Chromium as Debian packages it; without windows if it is there, which draws faster. */
const debian = ["/usr/bin/chromium-headless-shell", "/usr/bin/chromium"];

/** The browser, and what keeps it to itself. */
export const program = {
  executablePath: process.env.CHROMIUM ?? debian.find(existsSync),
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};

export function launch() {
  return chromium.launch(program);
}

/** A page of its own, with nothing remembered and nothing moving. */
export async function open(browser, address, options = {}) {
  const context = await browser.newContext({
    baseURL: address,
    viewport: desk,
    locale: "en-GB",
    reducedMotion: "reduce",
    ...options,
  });
  return context.newPage();
}

/** Starts the demo on a shelf, and says where it is. */
async function start(binary, folder, port, more, command) {
  // Lemons that are the same each time: a journey that fails can be walked again.
  const args = [command, "--port", port, "--data", folder, "--luck", "7", ...more];
  const server = spawn(binary, args, { stdio: ["ignore", "pipe", "inherit"] });
  const ended = new Promise((done) => server.once("exit", done));
  const lines = createInterface({ input: server.stdout });
  const first = await Promise.race([
    new Promise((said) => lines.once("line", said)),
    ended.then((code) => Promise.reject(new Error(`the server ended with ${code}`))),
  ]);
  return { server, ended, address: first.split(" ").at(-1) };
}

/** A shelf with all that the demo has on it, to be copied: working it out anew takes as long as a short journey. */
export async function demoShelf(binary) {
  const folder = await mkdtemp(join(tmpdir(), "keen-pitcher-demo-"));
  const { server, ended } = await start(binary, folder, "0", [], "demo");
  server.kill();
  await ended;
  return folder;
}

/**
 * The demo (or with `serve` an empty shelf), on a shelf that nobody else has: a copy of `shelf`, if there is one.
 * `close` ends it and takes the shelf away, `cut` ends it at once, as a power cut would, and `again` starts it where
 * it was.
 */
export async function serveDemo(binary, more = [], command = "demo", shelf = undefined) {
  const folder = await mkdtemp(join(tmpdir(), "keen-pitcher-"));
  if (shelf && command === "demo") await cp(shelf, folder, { recursive: true });
  let running = await start(binary, folder, "0", more, command);
  const { address } = running;
  return {
    address,
    file: join(folder, "keen-pitcher.db"),
    async cut() {
      running.server.kill("SIGKILL");
      await running.ended;
    },
    async again() {
      running = await start(binary, folder, new URL(address).port, more, command);
    },
    async close() {
      running.server.kill();
      await running.ended;
      await rm(folder, { recursive: true });
    },
  };
}
