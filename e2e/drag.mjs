// Follows a drag of an amount: from the pointer's move to the painted point, for each move.
//   node drag.mjs ADDRESS
import { launch, open } from "./browser.mjs";

const MOVES = 120;

const browser = await launch();
const page = await open(browser, process.argv[2], { reducedMotion: "no-preference" });
const start = performance.now();
await page.goto("/");
const lemonade = page.locator("[data-drink]").getByRole("link", { name: "Lemon verbena lemonade" }).first();
await lemonade.waitFor();
console.log(`first load, until the shelf is drawn: ${(performance.now() - start).toFixed(0)} ms`);
await lemonade.click();
await page.getByTestId("point").waitFor();

await page.evaluate(() => {
  window.followed = { amount: [], point: [] };
  let moved = 0;
  addEventListener("pointermove", (event) => (moved = event.timeStamp), true);
  const follow = (name, element, what) =>
    new MutationObserver(() => {
      const since = moved;
      // After the next frame's callbacks the frame is painted; the message comes right behind it.
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => window.followed[name].push(performance.now() - since);
        port2.postMessage(0);
      });
    }).observe(element, what);
  const attribute = (name) => ({ attributes: true, attributeFilter: [name] });
  follow("point", document.querySelector('[data-testid="point"]'), attribute("transform"));
  const amount = document.querySelector('[role="spinbutton"][aria-label="Amount of White sugar"]');
  follow("amount", amount, { characterData: true, childList: true, subtree: true });
});

const sugar = page.getByRole("spinbutton", { name: "Amount of White sugar" });
const box = await sugar.boundingBox();
const y = box.y + box.height / 2;
await page.mouse.move(box.x + box.width - 10, y);
await page.mouse.down();
for (let i = 1; i <= MOVES; i++) {
  // Seven pixels are one step; there and back again.
  const x = box.x + box.width - 10 + 7 * (i <= MOVES / 2 ? i : MOVES - i);
  const seen = await page.evaluate(() => window.followed.point.length);
  await page.mouse.move(x, y);
  await page.waitForFunction((seen) => window.followed.point.length > seen, seen, { timeout: 2000 }).catch(() => {});
}
await page.mouse.up();
const asked = await page.evaluate(() =>
  performance
    .getEntriesByType("resource")
    .filter((entry) => entry.name.endsWith("/api/compute/trace?fields=moving"))
    .map((entry) => entry.duration)
    .sort((a, b) => a - b),
);
console.log(`of that, asking the core: median ${asked[asked.length >> 1].toFixed(1)} ms`);
const followed = await page.evaluate(() => window.followed);
await browser.close();
for (const [name, times] of Object.entries(followed)) {
  times.sort((a, b) => a - b);
  if (times.length < MOVES / 2) throw new Error(`the ${name} moved only ${times.length} times`);
  const at = (share) => times[Math.floor((times.length - 1) * share)].toFixed(1);
  console.log(
    `drag, ${name}, ${times.length} moves, from input to paint: median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst ${at(1)} ms`,
  );
}
