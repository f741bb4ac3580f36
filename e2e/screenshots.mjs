// Makes the pictures in docs/screenshots from the demo's drinks.
//   node screenshots.mjs ADDRESS FOLDER
import { mkdirSync } from "node:fs";
import { desk, launch, open, phone } from "./browser.mjs";

const [address, folder] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });

const views = [
  ["shelf", desk, "light", toShelf],
  ["shelf-phone", phone, "light", toShelf],
  ["balance", desk, "light", toBalance],
  ["balance-dark", desk, "dark", toBalance],
  ["balance-phone", phone, "light", toBalance],
  ["balance-counter", desk, "light", toVessel],
];

async function toShelf(page) {
  await page.goto("/");
  await page.getByText("Mint and cucumber water").waitFor();
}

async function toBalance(page) {
  await toShelf(page);
  await page.getByRole("link", { name: "Lemon verbena lemonade" }).click();
  await page.getByTestId("point").waitFor();
}

async function toVessel(page) {
  await toShelf(page);
  await page.getByRole("link", { name: "Hibiscus and bay-orange cooler" }).click();
  await page.getByRole("button", { name: /^Pot:/ }).click();
}

const browser = await launch();
for (const [name, viewport, colorScheme, go] of views) {
  const page = await open(browser, address, { viewport, colorScheme });
  await go(page);
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: `${folder}/${name}.png` });
  await page.context().close();
}
await browser.close();
