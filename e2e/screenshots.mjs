// Makes the pictures in docs/screenshots from the demo's drinks.
//   node screenshots.mjs ADDRESS FOLDER
import { mkdirSync } from "node:fs";
import { desk, launch, open, phone } from "./browser.mjs";

const [address, folder] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });

const views = [
  ["today", desk, "light", toShelf],
  ["paste", desk, "light", toPaste],
  ["make-from", desk, "light", toLarder],
  ["balance", desk, "light", to("Lemon verbena lemonade")],
  ["balance-phone", phone, "light", to("Lemon verbena lemonade")],
  ["balance-target", desk, "light", toTarget],
  ["steps", desk, "light", to("Hibiscus and bay-orange cooler", "steps")],
  ["size", desk, "light", to("Hibiscus and bay-orange cooler", "size")],
  ["size-shopping", desk, "light", to("Lemon verbena lemonade", "size/shopping")],
  ["make", desk, "light", toMake],
  ["make-phone", phone, "light", toMake],
  ["make-ways", desk, "dark", toWays],
  ["history", desk, "light", to("Lemon verbena lemonade", "history")],
  ["kept", desk, "light", toKept],
  ["labels", desk, "light", toLabels],
  ["plan", desk, "light", toPlan],
  ["tasting", desk, "light", toRow],
  ["find-balance-phone", phone, "light", toFind],
  ["cupboard", desk, "light", (page) => page.goto("/cupboard")],
];

async function toShelf(page) {
  await page.goto("/");
  await page.locator("[data-drink='Mint and cucumber water']").waitFor();
}

/** What can be made from limes that go hard. */
async function toLarder(page) {
  await page.goto("/make-from?have=8 limes going hard, a kilo of sugar, mint; six people");
  await page.getByRole("list", { name: "You can make" }).getByRole("listitem").first().waitFor();
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
  await page.getByRole("button", { name: "Practise" }).click();
  await done(page, 1);
  await page.getByRole("button", { name: "Done", exact: true }).waitFor();
  const scale = page.getByRole("group", { name: "On the scale" });
  await scale.getByText(/^on the scale -?\d g, still/).waitFor();
  await scale.getByRole("button", { name: /^Pour about 40 g/ }).click();
  await scale.getByText(/^on the scale \d\d g, still/).waitFor();
}

/** Goes on by so many steps; in the practice kitchen waits are over at once. */
async function done(page, waits) {
  for (let i = 0, left = waits; i < 40; i++) {
    const step = page.locator("h2[data-step]");
    const now = await step.getAttribute("data-step");
    if (now) {
      await page.getByRole("button", { name: /^(Done|Started)$/ }).click();
    } else {
      const over = page.getByRole("button", { name: "Skip this wait" });
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
  const going = page.getByRole("region", { name: "Next" });
  await going.getByRole("link", { name: /^Lemon verbena lemonade/ }).first().click();
  await page.getByRole("button", { name: "Something went differently" }).click();
  await page.getByRole("combobox", { name: "In which step" }).click();
  await page.getByRole("option", { name: /^Squeeze/ }).click();
  await page.getByRole("button", { name: "I got this much" }).click();
  await page.getByLabel("How much").fill("150 ml");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.getByRole("button", { name: "Do this" }).first().waitFor();
}

/** A blind row, two of its glasses answered. */
async function toRow(page) {
  await page.goto("/tasting/new/row");
  await page.getByLabel("Drink", { exact: true }).selectOption({ label: "Lemon verbena lemonade" });
  for (const name of ["The beekeeper", "The gatekeeper"]) await page.getByRole("button", { name }).click();
  await page.getByRole("button", { name: "Set it up" }).click();
  await page.getByRole("button", { name: "All poured" }).click();
  await page.getByText(/stay hidden/).waitFor();
  for (const [felt, good] of [[0, 2], [1, 6]]) {
    const how = page.getByRole("radiogroup", { name: /how is it/ });
    const glass = await how.getAttribute("aria-label");
    await how.getByRole("radio").nth(felt).click();
    await page.getByRole("radiogroup", { name: /how good/ }).getByRole("radio").nth(good).click();
    await page.getByRole("radiogroup", { name: glass }).waitFor({ state: "detached" });
  }
  await page.getByText("The beekeeper: 3 to go.").waitFor();
  await page.evaluate(() => window.scrollTo(0, 0));
}

/** Three glasses on. */
async function toFind(page) {
  await page.goto("/tasting/find");
  await page.getByLabel("Add a taster").fill("Wren");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await page.getByRole("button", { name: "Wren", pressed: true }).waitFor();
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await page.getByRole("button", { name: "The jugs are ready" }).click();
  for (const [nth, felt] of ["slightly sour", "slightly sweet", "just right"].entries()) {
    await page.getByText(`glass ${nth + 1}`, { exact: true }).waitFor();
    await page.getByRole("button", { name: felt, exact: true, disabled: false }).click();
  }
  await page.getByText("glass 4", { exact: true }).waitFor();
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

/** A recipe as an aunt would write it down, read. */
async function toPaste(page) {
  await page.goto("/paste");
  await page.getByLabel(/^The recipe/).fill(
    [
      "Aunt's garden lemonade, the one for the fête",
      "",
      "4 big lemons, zest grated and juiced",
      "1 scant cup sugar",
      "a handful of lemon verbena",
      "water to make 2 litres",
      "bit of that elderflower stuff if you have it",
      "",
      "Rub the sugar into the zest and leaves until it smells like a garden. Let it sit half an hour, stir in some of the water (hot from the kettle is fine, a mugful), strain, juice in, top up. Chill. The children love it.",
      "Makes one litre.",
    ].join("\n"),
  );
  await page.getByRole("button", { name: "Read the recipe" }).click();
  await page.getByRole("region", { name: "How" }).waitFor();
}

async function toKept(page) {
  await page.goto("/kept");
  await page.getByRole("link", { name: /Ginger and lemongrass/ }).click();
  await page.getByRole("region", { name: "Use it up" }).waitFor();
}

async function toLabels(page) {
  await page.goto("/kept/labels");
  await page.getByTestId("label-page").first().waitFor();
}

const browser = await launch();
for (const [name, viewport, colorScheme, go] of views) {
  const page = await open(browser, address, { viewport, colorScheme });
  await go(page);
  // Nothing lies under the mouse where it was last clicked.
  await page.mouse.move(1, 1);
  await page.evaluate(() => document.fonts.ready);
  await page.waitForLoadState("networkidle");
  await page.screenshot({ path: `${folder}/${name}.png` });
  await page.context().close();
}
await browser.close();
