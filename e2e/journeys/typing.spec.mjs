// Whole drinks from the keyboard: what is typed becomes steps, and takes few keys and fewer clicks.
import assert from "node:assert/strict";
import { test, accessible } from "./kitchen.mjs";

/** Types a blank drink in one line, and counts the keys and clicks that this takes. */
async function type(page, line) {
  let clicks = 0;
  const click = async (locator) => {
    clicks += 1;
    await locator.click();
  };
  await page.goto("/drinks");
  await click(page.getByRole("button", { name: "New drink", exact: true }));
  await click(page.getByRole("button", { name: /^Blank/ }));
  await click(page.getByRole("link", { name: "Steps", exact: true }));
  // In an empty drink the line is ready to be typed in.
  await page.waitForFunction(() => document.activeElement?.matches("[aria-label='Add a step'] input, .no-print input"));
  await page.keyboard.type(line);
  await page.keyboard.press("Enter");
  await page.waitForFunction(() => document.querySelectorAll("[data-step]").length > 0);
  await page.waitForFunction(() => document.activeElement?.value === "");
  return line.length + 1 + clicks;
}

const steps = (page) => page.locator("[data-step]").count();

for (const [drink, before, line, count] of [
  ["one glass", 16 + 67, "1 lemon juice;25 g sugar;1 cup water", 3],
  [
    "a hibiscus that is boiled, and sweetened in the glass",
    65 + 240,
    "1 l water in the pot;40 g hibiscus;1 cinnamon stick;5 cloves;boil 10;steep 20;strain into the pitcher;chill;serve 4 glasses;1 tbsp sugar;stir",
    11,
  ],
  ["peels under sugar overnight, and simmered", 45 + 90, "peel of 4 lemons;200 g sugar;overnight;500 ml water;simmer 5", 6],
  ["an agua fresca with a second water", 60 + 110, "1 kg melon;500 ml water;blend;strain;rinse 200 ml;2 limes, juiced", 7],
  ["a soda by parts", 55 + 110, "2 : 2 : 3 lemon juice, syrup, soda", 3],
]) {
  test(`typed: ${drink}`, async ({ page }) => {
    const taken = await type(page, line);
    assert.ok(taken <= before / 2, `${taken} keys and clicks; half of ${before} were wanted`);
    assert.equal(await steps(page), count);
  });
}

test("what can't be used there is said, and stays to be typed better", async ({ page }) => {
  await type(page, "1 l water in the pot; 30 g hibiscus");
  const field = page.getByRole("textbox", { name: "Type the next steps" });
  await page.keyboard.type("hum a tune; steep 20");
  await page.keyboard.press("Enter");
  await page.getByText(/We couldn’t use “hum a tune” here/).waitFor();
  assert.equal(await field.inputValue(), "hum a tune");
  assert.equal(await steps(page), 3);
  await accessible(page, "a step that wasn't understood");
  await field.fill("strain into the jug");
  await page.keyboard.press("Enter");
  await page.waitForFunction(() => document.querySelectorAll("[data-step]").length === 4);
  // One undo takes back one line.
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.waitForFunction(() => document.querySelectorAll("[data-step]").length === 3);
});
