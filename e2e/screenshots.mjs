// Makes the pictures in docs/screenshots from the demo's drinks.
//   node screenshots.mjs ADDRESS FOLDER
import { mkdirSync } from "node:fs";
import { desk, launch, open, phone } from "./browser.mjs";

const [address, folder] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });

const views = [
  ["shelf", desk, "light", toShelf],
  ["balance", desk, "light", to("Lemon verbena lemonade")],
  ["balance-phone", phone, "light", to("Lemon verbena lemonade")],
  ["balance-target", desk, "light", toTarget],
  ["new-drink", desk, "light", toStartingPoints],
  ["steps", desk, "light", to("Hibiscus and bay-orange cooler", "steps")],
  ["steps-phone", phone, "light", to("Lemon verbena lemonade", "steps")],
  ["size", desk, "light", to("Hibiscus and bay-orange cooler", "size")],
  ["size-shopping", desk, "light", to("Lemon verbena lemonade", "size/shopping")],
  ["size-glass", desk, "light", to("Mandarin fizz", "size/glass")],
  ["make", desk, "light", toMake],
  ["make-phone", phone, "light", toMake],
  ["make-ways", desk, "dark", toWays],
  ["practice-truth", desk, "light", toTruth],
  ["phones", desk, "light", toPhones],
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

/** A practice run, half-way through weighing the calyces. */
async function toMake(page) {
  await to("Hibiscus and bay-orange cooler", "make")(page);
  await page.getByRole("button", { name: "Practise it" }).click();
  await done(page, 1);
  await page.getByRole("button", { name: "Done", exact: true }).waitFor();
  const scale = page.getByRole("group", { name: "On the scale" });
  await scale.getByText(/^on the scale 0 g, still/).waitFor();
  await scale.getByRole("button", { name: /^Pour about 40 g/ }).click();
  await scale.getByText(/^on the scale \d\d g, still/).waitFor();
}

/** Goes on by so many steps; in the practice kitchen waits are over at once. */
async function done(page, waits) {
  for (let i = 0, left = waits; i < 40; i++) {
    const step = page.locator("h2[data-step]");
    const now = await step.getAttribute("data-step");
    if (now) {
      await page.getByRole("button", { name: /^(Done|It has begun)$/ }).click();
    } else {
      const over = page.getByRole("button", { name: "To the end of the wait" });
      if (!(await over.isVisible())) return;
      await over.click();
      await page.getByRole("list", { name: "Waits" }).getByText("over", { exact: true }).first().waitFor();
      await page.getByRole("button", { name: /^Done: / }).first().click();
      left -= 1;
    }
    await page.waitForFunction((was) => document.querySelector("h2[data-step]").dataset.step !== was, now);
    if (left === 0) return;
  }
}

async function toWays(page) {
  await toShelf(page);
  const going = page.getByRole("region", { name: "On the go" });
  await going.getByRole("link", { name: /^Lemon verbena lemonade/ }).click();
  await page.getByRole("button", { name: "It came out otherwise" }).click();
  await page.getByRole("combobox", { name: "In which step" }).click();
  await page.getByRole("option", { name: /^Squeeze/ }).click();
  await page.getByRole("combobox", { name: "What", exact: true }).click();
  await page.getByRole("option", { name: "So much came out" }).click();
  await page.getByLabel("How much").fill("150 ml");
  await page.getByRole("button", { name: "So it was" }).click();
  await page.getByRole("button", { name: "Do that" }).first().waitFor();
}

async function toTruth(page) {
  await to("Hibiscus and bay-orange cooler", "make")(page);
  await page.getByRole("button", { name: "Practise it" }).click();
  await page.getByText(/practice · 1 of/).waitFor();
  await done(page, 40);
  await page.getByRole("button", { name: "Finish", exact: true }).click();
  await page.getByLabel("Where it stands now").fill("refrigerator, upper shelf");
  await page.getByRole("button", { name: "It is made" }).click();
  await page.getByRole("region", { name: "The truth" }).waitFor();
}

async function toPhones(page) {
  await toShelf(page);
  await page.getByRole("button", { name: "Phones in the kitchen" }).click();
  await page.getByText(/no certificate/).first().waitFor();
}

async function toPlan(page) {
  await page.goto("/plan");
  await page.getByRole("link", { name: /Midsummer open day/ }).click();
  await page.locator("[data-strip]").waitFor();
}

async function toTarget(page) {
  await to("Lemon verbena lemonade")(page);
  const map = await page.getByRole("img", { name: /^Balance map/ }).boundingBox();
  await page.mouse.click(map.x + map.width * 0.68, map.y + map.height * 0.4);
  await page.getByRole("button", { name: "Work out the amounts" }).click();
  await page.getByRole("region", { name: "Worked out" }).waitFor();
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
