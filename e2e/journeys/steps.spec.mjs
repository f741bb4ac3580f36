// The Steps screen: composing, reordering, measuring.
import assert from "node:assert/strict";
import { test, inOrder, saved, number, openDrink, accessible, composing } from "./kitchen.mjs";

test("Steps: compose a hot-steeped hibiscus from blank, and refuse an impossible order", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New drink", exact: true }).click();
  await page.getByRole("button", { name: /^Blank/ }).click();
  await page.getByRole("link", { name: "Steps" }).click();
  const { palette, choose, putIn, type } = composing(page);
  await choose("Another vessel", "Pot");
  await putIn("tap water", "Pot");
  await type("Amount", "1 l");
  await page.getByRole("button", { name: /Pour 1 l water into the pot/ }).waitFor();
  await palette.getByRole("button", { name: "Heat", exact: true }).click();
  await page.getByRole("button", { name: /Heat the pot to 95 °C/ }).waitFor();
  await putIn("jamaica", "Pot");
  await page.getByRole("button", { name: /(Add|add) 20 g dried hibiscus/ }).waitFor();
  await putIn("orange rind");
  await type("Amount", "10 g");
  await putIn("cassia");
  await putIn("allspice");
  await page.getByRole("button", { name: /Add 8 allspice berries to the pot/ }).waitFor();
  await palette.getByRole("button", { name: "Leave to steep" }).click();
  await type("For, min", "20");
  await page.getByRole("button", { name: /Leave the pot for 20 minutes, covered/ }).waitFor();
  await page.getByText(/^Almost everything is extracted after \d+ min; longer adds little\./).waitFor();
  await palette.getByRole("button", { name: "Strain" }).click();
  await page.getByRole("button", { name: /Strain the pot through the fine sieve into the pitcher/ }).waitFor();
  await accessible(page, "Steps");

  // Straining before anything stands in the pot is refused, with the reason.
  const steps = () => inOrder(page, "id");
  const before = await steps();
  await page.getByRole("button", { name: /Leave the pot/ }).click();
  await page.getByRole("button", { name: "Later" }).click();
  await page.getByRole("button", { name: /^8 Leave the pot/ }).waitFor();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: /^7 Leave the pot/ }).waitFor();
  await page.getByRole("button", { name: /Heat the pot to 95 °C/ }).click();
  await page.getByRole("button", { name: "Earlier" }).click();
  await page.getByText("These steps can't be in that order. The pot is empty, so there is nothing to heat.").waitFor();
  assert.deepEqual(await steps(), before);

  await page.getByRole("button", { name: /Strain the pot/ }).click();
  await putIn("sugar syrup");
  await type("Amount", "180 g");
  await page.getByRole("button", { name: /Pour 180 g sugar syrup/ }).first().waitFor();
  await palette.getByRole("button", { name: "Serve" }).click();
  await page.getByRole("button", { name: /Pour 4 glasses of 250 ml from the pitcher/ }).waitFor();
  await putIn("ice");
  // Hot from the pot, all the ice would be gone: it says so, until the pitcher has cooled.
  await page.getByText(/^All this ice melts in a drink at \d\d °C/).waitFor();
  await page.getByRole("button", { name: /Pour 180 g sugar syrup 1:1/ }).click();
  await palette.getByRole("button", { name: "Cool" }).click();
  await page.getByText(/All this ice melts/).waitFor({ state: "detached" });
  await page.getByRole("link", { name: "Balance" }).click();
  assert.ok((await number(page, "acidity")) > 0.2, "the calyces have given their acid");
  await saved(page);
  await page.goto(`${page.url()}/steps`);
  await page.getByRole("button", { name: /Leave the pot for 20 minutes, covered/ }).waitFor();
});

test("Steps: boiling water, grated root, a marked line, parts and a range", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New drink", exact: true }).click();
  await page.getByRole("button", { name: /^Blank/ }).click();
  await page.getByRole("link", { name: "Steps" }).click();
  const { palette, choose, putIn, type } = composing(page);
  const step = (sentence) => page.getByRole("button", { name: sentence });
  await choose("Another vessel", "Pot");
  await putIn("tap water", "Pot");
  await type("Amount", "1 quart");
  await choose("Temperature", "boiling, from the kettle");
  await step(/Pour 1 quart boiling water into the pot/).waitFor();
  await palette.getByRole("button", { name: "Mark the level" }).click();
  await step(/Mark the level on the pot/).waitFor();
  await putIn("ginger root", "Pot");
  await type("Amount", "1 inch of ginger");
  await choose("Cut", "grated");
  await step(/Grate .*ginger.* into the pot/).waitFor();
  await putIn("tap water", "Pot");
  await palette.getByRole("button", { name: "Boil down" }).click();
  // A line was marked, so that is how far it goes.
  await step(/Boil the pot down, uncovered, to the mark/).waitFor();
  await palette.getByRole("button", { name: "Strain" }).click();
  await step(/Strain the pot through the fine sieve/).waitFor();
  await putIn("lemon juice", "Pitcher");
  await page.getByRole("combobox", { name: "For", exact: true }).waitFor();
  await putIn("sugar syrup 1:1", "Pitcher");
  await type("Amount", "2 parts");
  await type("One part is", "50 ml");
  await step(/Pour 2 parts sugar syrup/).waitFor();
  await putIn("honey", "Pitcher");
  await type("Amount", "1 to 3 tbsp");
  await step(/Pour 1 to 3 tbsp honey into the pitcher/).waitFor();
  await palette.getByRole("button", { name: "Stir" }).click();
  await choose("Until", "clear");
  await step(/Stir the pitcher until clear/).waitFor();
  await accessible(page, "Steps with what makers say");
  await saved(page);
  await page.reload();
  await step(/Pour 2 parts sugar syrup/).waitFor();
  await step(/Pour 1 to 3 tbsp honey into the pitcher/).waitFor();
});

test("Steps: boil down to a line, drag into another order, measure and learn, compare", async ({ page }) => {
  await openDrink(page, "Ginger and lemongrass syrup");
  await page.getByRole("link", { name: "Steps" }).click();
  const card = (text) => page.locator("[data-step]").filter({ hasText: text });
  await card("Boil down").click();
  const panel = page.getByRole("region", { name: /^Step/ });
  await panel.getByText(/the level is then \d+ mm above the bottom/).waitFor();
  await panel.getByRole("combobox", { name: "Until" }).click();
  await page.getByRole("option", { name: "a boiling temperature" }).click();
  await card("Boil down, uncovered, until it boils at 103 °C").waitFor();
  await page.getByRole("button", { name: "Undo" }).click();
  await card("to 550 ml").waitFor();

  // The water goes before the ginger by dragging; the strainer can't go first.
  const steps = () => inOrder(page, "text");
  const first = (text) => page.locator(`[data-step][aria-label^="1 "]`).filter({ hasText: text }).waitFor();
  const drag = async (from, to) => {
    const a = await page.getByRole("button", { name: `Move step ${from}`, exact: true }).boundingBox();
    const b = await page.getByRole("button", { name: `Move step ${to}`, exact: true }).boundingBox();
    await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2 - 20, { steps: 12 });
    await page.mouse.up();
  };
  await page.evaluate(() => scrollTo(0, 0));
  await drag(3, 1);
  await first("1 l water");
  await page.getByRole("button", { name: "Undo" }).click();
  await first("ginger");
  const before = await steps();
  await drag(4, 1);
  await page.getByText(/^These steps can't be in that order\./).waitFor();
  assert.deepEqual(await steps(), before);

  // A drop is undone where it was made; a plus puts a step in between; a step is copied.
  await drag(3, 1);
  await page.getByRole("button", { name: "Move it back" }).click();
  await first("ginger");
  assert.deepEqual(await steps(), before);
  await page.getByRole("button", { name: "Add a step after step 2", exact: true }).click();
  await page.getByText("After step 2, in").waitFor();
  await page.getByRole("region", { name: "Add a step" }).getByRole("button", { name: "Dissolve" }).click();
  await page.getByRole("region", { name: "Step 3" }).waitFor();
  assert.equal((await steps()).length, before.length + 1);
  await page.getByRole("button", { name: "Undo" }).click();
  await card("1 l water").click();
  await panel.getByRole("button", { name: "Copy" }).click();
  await page.waitForFunction((n) => document.querySelectorAll("[data-step]").length === n + 1, before.length);
  await page.getByRole("button", { name: "Undo" }).click();
  await page.waitForFunction((n) => document.querySelectorAll("[data-step]").length === n, before.length);
  await page.emulateMedia({ media: "print", colorScheme: "dark" });
  await page.getByRole("heading", { name: "Method", includeHidden: true }).waitFor();
  assert.equal(await page.locator("article li").count(), before.length);
  assert.equal(await page.getByRole("button", { name: "Print the recipe" }).isVisible(), false);
  await page.emulateMedia({ media: "screen", colorScheme: "light" });

  await card("Strain the pot").first().click();
  await panel.getByRole("textbox", { name: "Volume measured after this step" }).fill("3 limes");
  await panel.getByRole("button", { name: "Learn" }).click();
  await panel.getByText(/isn't a volume/).waitFor();
  await panel.getByRole("textbox", { name: "Volume measured after this step" }).fill("570 ml");
  await panel.getByRole("button", { name: "Learn" }).click();
  await panel.getByText(/liquid that 1 g of ginger root holds/).waitFor();
  await panel.getByRole("button", { name: "Use my figures from now on" }).click();
  await panel.getByText("Saved to your figures").waitFor();

  await page.getByRole("button", { name: "Compare with another way" }).click();
  await page.getByRole("combobox", { name: "Compare with" }).click();
  await page.getByRole("option", { name: "Root syrup, boiled down" }).click();
  await page.getByRole("cell", { name: /days/ }).first().waitFor();
  await accessible(page, "two ways side by side");
  await page.getByRole("button", { name: "Close" }).last().click();

  await page.goto("/cupboard");
  await page.getByLabel("Find an ingredient").fill("ginger root");
  await page.getByRole("button", { name: /^Ginger root/ }).click();
  const reset = page.getByRole("button", { name: "Reset liquid held when drained" });
  await reset.click();
  await reset.waitFor({ state: "detached" });
  await page.getByText(/^estimated, 0\.\d+ to 0\.\d+$/).first().waitFor();
});
