// The other way round: a target, a correction, a replacement.
import assert from "node:assert/strict";
import { test, figure, amount, saved, number, changed, openDrink, accessible } from "./kitchen.mjs";

test("the other way round: drag the ring, hold, bound, look, take it, undo", async ({ page }) => {
  await openDrink(page, "Lemon verbena lemonade");
  const ring = page.getByRole("slider", { name: "Target" });
  const map = await page.getByRole("img", { name: /^Balance map/ }).boundingBox();
  const from = await ring.boundingBox();
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(map.x + map.width * 0.7, map.y + map.height * 0.36, { steps: 5 });
  await page.mouse.up();
  const [wantSweet, wantAcid] = ["Target: sweet, g", "Target: acid, %"].map((name) => page.getByLabel(name));
  assert.equal(await wantSweet.inputValue() === "", false, "the fields follow the ring");
  const wanted = [null, Number(await wantSweet.inputValue()), Number(await wantAcid.inputValue())];
  await page.getByRole("button", { name: "Work out the amounts" }).click();
  const worked = page.getByRole("region", { name: "Worked out" });
  await worked.getByText("White sugar").waitFor();
  await accessible(page, "a proposal");
  const solved = (await figure(page, "solved").innerText()).match(/([\d.]+) g, ([\d.]+) %/);
  assert.ok(Math.abs(solved[1] - wanted[1]) < 0.4 && Math.abs(solved[2] - wanted[2]) < 0.04, `${solved[0]} for ${wanted}`);
  const before = await number(page, "sweetness");
  await worked.getByRole("button", { name: "Use these amounts" }).click();
  const after = await changed(page, "sweetness", before);
  assert.ok(Math.abs(after - wanted[1]) < 0.4, `${after} g for ${wanted[1]}`);
  await page.getByRole("button", { name: "Undo" }).click();
  await changed(page, "sweetness", after);

  // By keys, with the sugar held and the lemons bounded: it says what stops it.
  await ring.focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press("Shift+ArrowUp");
  for (let i = 0; i < 6; i++) await page.keyboard.press("Shift+ArrowRight");
  await amount(page, "White sugar").focus();
  await page.getByRole("button", { name: "Hold White sugar" }).click();
  await amount(page, "Lemon juice").focus();
  await page.getByLabel("Maximum Lemon juice").fill("7 lemons");
  await page.keyboard.press("Enter");
  await page.getByText("at most 7 lemons").waitFor();
  await page.getByRole("button", { name: "Work out the amounts" }).click();
  await page.getByText("This is the closest match.").waitFor();
  await page.getByText(/limited to 7 lemons/).waitFor();
  await page.getByRole("button", { name: "Back" }).click();
  await page.getByRole("button", { name: "Clear the target" }).click();

  await page.getByRole("combobox", { name: "Aim at" }).click();
  await page.getByRole("option", { name: "like Tamarind cooler" }).click();
  await page.waitForFunction(() => /^[78]\.\d$/.test(document.querySelector('[aria-label="Target: sweet, g"]').value));
  // And in figures, for those who know them.
  await page.getByLabel("Target: acid, %").fill("40");
  await page.keyboard.press("Enter");
  await page.getByText("Enter 0 to 10.").waitFor();
  await page.getByLabel("Target: acid, %").fill("0.5");
  await page.keyboard.press("Enter");
  await page.waitForFunction(() => document.querySelector('[role="slider"][aria-label="Target"]').getAttribute("aria-valuetext")?.includes("0.50"));
  await page.getByTestId("cloud").waitFor();
  await saved(page);
});

test("taste and correct: words to spoons, for this pitcher and for one never seen", async ({ page }) => {
  await openDrink(page, "Hibiscus and bay-orange cooler");
  await page.getByRole("button", { name: "Taste and correct" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "clearly too sour" }).click();
  await dialog.getByRole("button", { name: "Suggest corrections" }).click();
  await dialog.locator("[data-way]").first().waitFor();
  await accessible(page, "taste and correct");
  assert.match(await dialog.locator("[data-way]").first().innerText(), /(tbsp|cup|ml|tsp)/);
  await dialog.getByRole("combobox", { name: "What did you taste?" }).click();
  await page.getByRole("option", { name: "Another pitcher" }).click();
  await dialog.getByRole("textbox", { name: "Volume you have" }).fill("1.95 l");
  await dialog.getByRole("textbox", { name: "Pitcher holds" }).fill("2 l");
  await dialog.getByRole("button", { name: "much too sour" }).click();
  await dialog.getByRole("button", { name: "Suggest corrections" }).click();
  await dialog.getByText(/^Pour off/).first().waitFor();
  await dialog.getByRole("textbox", { name: "Pitcher holds" }).fill("1 l");
  await dialog.getByRole("button", { name: "Suggest corrections" }).click();
  await dialog.getByText("Enter a pitcher that holds at least this volume.").waitFor();
  await dialog.getByRole("combobox", { name: "What did you taste?" }).click();
  await page.getByRole("option", { name: /^Pitcher/ }).click();
  await dialog.getByRole("button", { name: "Suggest corrections" }).click();
  await dialog.getByRole("button", { name: "Add this to the drink" }).first().click();
  await page.getByRole("button", { name: "Undo" }).click();
  await saved(page);
});

test("swap: honey for sugar, at the same sweetness", async ({ page }) => {
  await openDrink(page, "Melon and lime agua fresca");
  const before = await number(page, "sweetness");
  await amount(page, "White sugar").focus();
  await page.getByRole("button", { name: "Swap" }).click();
  await page.getByLabel("Find in the cupboard").fill("honey");
  await page.getByRole("button", { name: "Honey" }).click();
  await page.getByRole("region", { name: "Swapped" }).waitFor();
  await accessible(page, "a swap");
  await page.getByRole("button", { name: "Replace" }).click();
  await amount(page, "Honey").waitFor();
  await page.waitForFunction(
    (before) => Math.abs(parseFloat(document.querySelector('[data-figure="sweetness"]').innerText) - before) < 0.21,
    before,
  );
  await page.getByRole("button", { name: "Undo" }).click();
  await amount(page, "White sugar").waitFor();
});

test("less sugar: the curve, a point on it, and a sweetener", async ({ page }) => {
  await openDrink(page, "Lemon verbena lemonade");
  await page.getByRole("button", { name: "Less sugar" }).click();
  const sheet = page.getByRole("dialog", { name: "Less sugar" });
  await sheet.getByText(/^\d+ g of sugar in a glass now\. \d+ g before anyone notices\. \d+ g if it may be/).waitFor();
  await accessible(page, "less sugar");
  const slider = sheet.getByRole("slider", { name: "How much less" });
  const said = sheet.getByRole("status");
  await said.getByText(/no noticeable difference/).waitFor();
  await slider.press("End");
  await said.getByText(/far from it/).waitFor();
  await slider.press("Home");
  await sheet.getByRole("button", { name: "with a sweetener" }).click();
  await slider.press("ArrowRight");
  await said.getByText(/add .* allulose/).waitFor();
  await sheet.getByRole("button", { name: "Use these amounts" }).click();
  await page.getByText("Allulose").first().waitFor();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.getByText("Allulose").first().waitFor({ state: "detached" });
});
