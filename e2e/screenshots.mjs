// Makes the pictures in docs/screenshots from the demo's drinks.
//   node screenshots.mjs ADDRESS FOLDER
import { mkdirSync } from "node:fs";
import { desk, launch, open, phone } from "./browser.mjs";

const [address, folder] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });

const views = [
  ["shelf", desk, "light", toShelf],
  ["balance", desk, "light", to("Lemon verbena lemonade")],
  ["balance-dark", desk, "dark", to("Lemon verbena lemonade")],
  ["balance-phone", phone, "light", to("Lemon verbena lemonade")],
  ["balance-counter", desk, "light", toVessel],
  ["balance-target", desk, "light", toTarget],
  ["correct", desk, "light", toCorrect],
  ["new-drink", desk, "light", toStartingPoints],
  ["steps", desk, "light", to("Hibiscus and bay-orange cooler", "steps")],
  ["steps-phone", phone, "light", to("Lemon verbena lemonade", "steps")],
  ["size", desk, "light", to("Hibiscus and bay-orange cooler", "size")],
  ["size-vessels", desk, "light", to("Lemon verbena lemonade", "size/vessels")],
  ["size-shopping", desk, "light", to("Lemon verbena lemonade", "size/shopping")],
  ["size-glass", desk, "light", to("Mandarin fizz", "size/glass")],
  ["make", desk, "light", toMake],
  ["plan", desk, "light", toPlan],
  ["plan-phone", phone, "light", toPlan],
  ["cupboard", desk, "light", (page) => page.goto("/cupboard")],
  ["syrup-desk", desk, "light", (page) => page.goto("/syrup")],
];

async function toShelf(page) {
  await page.goto("/");
  await page.getByText("Mint and cucumber water").waitFor();
}

/** A drink of the shelf, in one of its views. */
function to(name, view) {
  return async (page) => {
    await toShelf(page);
    await page.locator("[data-drink]").getByRole("link", { name }).click();
    await page.getByTestId("point").waitFor();
    if (view) await page.goto(`${page.url()}/${view}`);
  };
}

async function toMake(page) {
  await to("Hibiscus and bay-orange cooler", "make")(page);
  await page.getByRole("button", { name: "Make it now" }).click();
  await page.getByRole("button", { name: "Done", exact: true }).click();
  await page.getByRole("button", { name: "It has begun" }).click();
  await page.getByRole("button", { name: /^Done: Heat/ }).click();
  await page.getByText(/Put 50 g dried hibiscus/).first().waitFor();
}

async function toPlan(page) {
  await page.goto("/plan");
  await page.getByRole("link", { name: /Midsummer open day/ }).click();
  await page.locator("[data-strip]").waitFor();
}

async function toVessel(page) {
  await toShelf(page);
  await page.locator("[data-drink]").getByRole("link", { name: "Hibiscus and bay-orange cooler" }).click();
  await page.getByRole("button", { name: /^Pot:/ }).click();
}

async function toTarget(page) {
  await to("Lemon verbena lemonade")(page);
  const map = await page.getByRole("img", { name: /^Balance map/ }).boundingBox();
  await page.mouse.click(map.x + map.width * 0.68, map.y + map.height * 0.4);
  await page.getByRole("button", { name: "Work out the amounts" }).click();
  await page.getByRole("region", { name: "Worked out" }).waitFor();
}

async function toCorrect(page) {
  await to("Hibiscus and bay-orange cooler")(page);
  await page.getByRole("button", { name: "Taste and correct" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "clearly too sharp" }).click();
  await dialog.getByRole("button", { name: "What does it need?" }).click();
  await dialog.locator("[data-way]").first().waitFor();
}

async function toStartingPoints(page) {
  await toShelf(page);
  await page.getByRole("button", { name: "New drink" }).click();
  await page.getByRole("button", { name: /^Blank/ }).waitFor();
}

const browser = await launch();
for (const [name, viewport, colorScheme, go] of views) {
  const page = await open(browser, address, { viewport, colorScheme });
  await go(page);
  await page.evaluate(() => document.fonts.ready);
  await page.waitForLoadState("networkidle");
  await page.screenshot({ path: `${folder}/${name}.png` });
  await page.context().close();
}
await browser.close();
