// The Balance screen: amounts, lines, the counter, servings, units.
import { expect } from "@playwright/test";
import assert from "node:assert/strict";
import { test, figure, amount, saved, number, changed, openDrink, accessible } from "./kitchen.mjs";

test("from blank: add from the cupboard and see the drink come onto the map", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New drink", exact: true }).click();
  await page.getByRole("button", { name: /^Blank/ }).click();
  await page.getByText("The figures appear with the first ingredient.").waitFor();
  for (const [typed, name] of [
    ["sparkling", "Soda water"],
    ["tangerine", "Mandarin juice"],
    ["granulated", "White sugar"],
  ]) {
    await page.getByRole("button", { name: "Add an ingredient" }).click();
    await page.getByLabel("Ingredient, with or without its amount").fill(typed);
    await page.getByRole("button", { name: new RegExp(`^${name}`) }).first().waitFor();
    if (name === "Soda water") await accessible(page, "the cupboard's finder");
    await page.getByLabel("Ingredient, with or without its amount").press("Enter");
    await amount(page, name).waitFor();
  }
  await page.getByTestId("point").waitFor();
  // With its amount, and Enter before anything has been looked up.
  await page.getByRole("button", { name: "Add an ingredient" }).click();
  await page.keyboard.type("juice of two and a half limes");
  await page.keyboard.press("Enter");
  await amount(page, "Lime juice").waitFor();
  assert.match(await amount(page, "Lime juice").innerText(), /2 ?1\/2|2½/);
  assert.ok((await number(page, "fizz")) > 1, "it has fizz");
  await saved(page);
});

test("Balance: type, nudge, scrub, undo and redo", async ({ page }) => {
  await openDrink(page, "Lemon verbena lemonade");
  await accessible(page, "Balance");
  const first = await number(page, "sweetness");
  const sugar = amount(page, "White sugar");

  await sugar.click();
  await page.getByRole("textbox", { name: "Amount of White sugar" }).fill("1 1/2 cups");
  await page.keyboard.press("Enter");
  const sweeter = await changed(page, "sweetness", first);
  assert.ok(sweeter > first, `${sweeter} is sweeter than ${first}`);
  await expect(sugar).toHaveText("1 1/2 cups");

  await sugar.focus();
  await page.keyboard.press("ArrowDown");
  const less = await changed(page, "sweetness", sweeter);
  assert.ok(less < sweeter);
  await expect(sugar).toHaveText("1 1/4 cups");

  const lemons = amount(page, "Lemon juice");
  const acid = await number(page, "acidity");
  const box = await lemons.boundingBox();
  await page.mouse.move(box.x + box.width - 20, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width + 8, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  // The drag passes 7, 8 and 9 on its way; its end is what counts.
  await page.getByText("10 lemons", { exact: true }).waitFor();
  const sharper = await changed(page, "acidity", acid);
  assert.ok(sharper > acid, `${sharper} is sharper than ${acid}`);
  await expect(lemons).toHaveText("10 lemons");

  for (const wrong of ["-3 g", "some", "1e9 g"]) {
    await sugar.click();
    await page.getByRole("textbox", { name: "Amount of White sugar" }).fill(wrong);
    await page.keyboard.press("Enter");
    await page.getByRole("alert").waitFor();
    await page.keyboard.press("Escape");
    await expect(sugar).toHaveText("1 1/4 cups");
  }

  await page.getByRole("button", { name: "Undo" }).click();
  await changed(page, "acidity", sharper);
  await expect(lemons).toHaveText("6 lemons");
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await page.waitForFunction(
    (first) => parseFloat(document.querySelector('[data-figure="sweetness"]').innerText) === first,
    first,
  );
  await page.getByRole("button", { name: "Redo" }).click();
  await changed(page, "sweetness", first);
  await expect(sugar).toHaveText("1 1/2 cups");
  await page.keyboard.press("Control+z");
  await saved(page);
});

test("lines: leave out, move, note, and a measure that isn't known", async ({ page }) => {
  await openDrink(page, "Melon and lime agua fresca");
  const lines = () => page.locator("[data-line]").evaluateAll((all) => all.map((l) => l.dataset.line));
  const before = await lines();
  await amount(page, "Salt").focus();
  await page.getByRole("button", { name: "Leave out Salt" }).click();
  await page.locator('[data-line="table_salt"]').waitFor({ state: "detached" });
  await amount(page, "White sugar").focus();
  await page.getByRole("button", { name: "Move White sugar up" }).click();
  await page.waitForFunction(() => {
    const all = [...document.querySelectorAll("[data-line]")].map((l) => l.dataset.line);
    return all.indexOf("white_sugar") < all.indexOf("lime_juice");
  });
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await page.locator('[data-line="table_salt"]').waitFor();
  assert.deepEqual(await lines(), before);

  await amount(page, "Lime juice").click();
  await page.getByRole("textbox", { name: "Amount of Lime juice" }).fill("2 glugs");
  await page.keyboard.press("Enter");
  await page.getByRole("alert").getByText("how much “glugs” of").waitFor();
  await page.getByRole("textbox", { name: "Amount of Lime juice" }).fill("1,500 ml");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "1500 ml" }).waitFor();
  await page.getByRole("textbox", { name: "Amount of Lime juice" }).press("Escape");
});

test("the counter: what is in each vessel, and one that is too small", async ({ page }) => {
  await openDrink(page, "Hibiscus and bay-orange cooler");
  await page.getByRole("button", { name: /^Pot:/ }).click();
  const pot = page.getByRole("region", { name: "In the pot" });
  await pot.getByText("Leave the pot for 20 minutes.").waitFor();
  await pot.getByText(/% drawn/).first().waitFor();
  await accessible(page, "the counter");
  await pot.getByLabel("Holds to the brim").fill("1 l");
  await pot.getByRole("button", { name: "Set" }).click();
  await page.locator('[data-notice="over_brim"]').first().waitFor();
  await page.getByRole("button", { name: /^Pot: \d+ ml too much/ }).waitFor();
  await pot.getByLabel("Holds to the brim").fill("3 l");
  await pot.getByRole("button", { name: "Set" }).click();
  await page.locator('[data-notice="over_brim"]').first().waitFor({ state: "detached" });
  await saved(page);
});

test("servings: from a pitcher to a party and to one glass", async ({ page }) => {
  await openDrink(page, "Mint and cucumber water");
  const sweetness = await number(page, "sweetness");
  await page.getByRole("button", { name: /^Servings:/ }).click();
  await page.getByRole("textbox", { name: "Glasses" }).fill("48");
  await page.getByRole("textbox", { name: "of", exact: true }).fill("200 ml");
  await accessible(page, "servings");
  await page.getByRole("button", { name: "Make this many glasses" }).click();
  await page.getByRole("button", { name: "Servings: 48 glasses of 200 ml" }).waitFor();
  const volume = await changed(page, "volume", 2);
  assert.ok(Math.abs(volume - 9.6) < 0.02, `${volume} l`);
  assert.ok(Math.abs((await number(page, "sweetness")) - sweetness) < 0.15, "it tastes the same");
  await page.locator('[data-notice="over_brim"]').first().waitFor();
  await page.getByRole("button", { name: /^Servings:/ }).click();
  await page.getByRole("textbox", { name: "All of it" }).fill("250 ml");
  await page.getByRole("button", { name: "Make this volume" }).click();
  await changed(page, "volume", volume);
  assert.equal(await figure(page, "volume").innerText(), "250 ml\nserved");
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Servings: 8 glasses of 250 ml" }).waitFor();
  await saved(page);
});

test("units: cups, grams, and one ingredient by weight, remembered", async ({ page }) => {
  await openDrink(page, "Melon and lime agua fresca");
  await expect(amount(page, "White sugar")).toHaveText("1/2 cup");
  await page.getByRole("button", { name: /^Units:/ }).click();
  await page.getByRole("menuitem", { name: "US cups and spoons", exact: true }).click();
  await amount(page, "Water").getByText("2 cups + 2 tbsp", { exact: true }).waitFor();
  await amount(page, "White sugar").focus();
  await page.getByRole("button", { name: "Show White sugar by weight" }).click();
  await page.getByRole("spinbutton", { name: "Amount of White sugar" }).getByText("100 g").waitFor();
  await page.reload();
  await amount(page, "Water").getByText("2 cups + 2 tbsp", { exact: true }).waitFor();
  await expect(amount(page, "White sugar")).toHaveText("100 g");
  await page.getByRole("button", { name: /^Units:/ }).click();
  await page.getByRole("menuitem", { name: "As written" }).click();
  await amount(page, "Water").getByText("2 cups + 2 tbsp", { exact: true }).waitFor({ state: "detached" });
});

test("a touched figure says what its word means; a mistyped address says so", async ({ page }) => {
  await page.goto("/");
  await openDrink(page, "Lemon verbena lemonade");
  await page.getByRole("button", { name: /sugar to acid/ }).click();
  const words = page.getByRole("dialog", { name: "Words and keys" });
  await words.getByText(/Grams of sweetness for each gram of acid/).waitFor();
  await accessible(page, "the words");
  await words.getByRole("button", { name: "Close" }).click();
  await page.getByRole("button", { name: /dissolved/ }).click();
  assert.ok(await words.getByText(/A refractometer reads it/).isVisible());
  await page.keyboard.press("Escape");
  // A letter alone is never a shortcut.
  await page.keyboard.press("?");
  await page.waitForTimeout(200);
  assert.equal(await words.count(), 0);
  await page.keyboard.press("Control+/");
  await words.waitFor();
  await page.goto("/no/such/place");
  await page.getByRole("heading", { name: "There is no page here" }).waitFor();
  await page.getByRole("link", { name: "Go to Today" }).click();
  await page.waitForURL((url) => url.pathname === "/");
});
