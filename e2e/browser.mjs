// Starts headless Chromium for the journeys and the pictures.
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
