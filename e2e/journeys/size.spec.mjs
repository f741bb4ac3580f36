// Sizes, vessels, shopping, and what is done at the glass.
import assert from "node:assert/strict";
import { readFile } from "node:fs/promises";
import { test, saved, number, changed, openDrink, accessible } from "./kitchen.mjs";

test("Size: amounts side by side, a law, as much as there is, a party taken over", async ({ page }) => {
  await openDrink(page, "Hibiscus and bay-orange cooler");
  await page.getByRole("link", { name: "Size", exact: true }).click();
  const row = (name) => page.locator(`[data-row="${name}"]`).first();
  await row("Dried hibiscus calyces").getByText("50 g").waitFor();
  await accessible(page, "the amounts");
  await page.getByRole("textbox", { name: "Party, glasses" }).fill("24");
  await page.locator('[data-column="party"]').getByText(/^24 ×/).waitFor();
  await page.locator('[data-column="party"]').getByRole("img", { name: /no noticeable difference/ }).waitFor();
  await row("Dried hibiscus calyces").getByText("150 g").waitFor();
  await page.getByRole("button", { name: "Change scaling" }).click();
  await row("Bay leaves").getByRole("combobox").selectOption("the same in every vessel");
  await row("Bay leaves").getByText("3 fresh leaves").nth(2).waitFor();
  await page.getByRole("textbox", { name: "Party, glasses" }).fill("none");
  await page.getByRole("alert").waitFor();
  await page.getByRole("textbox", { name: "Party, glasses" }).fill("48");
  await page.getByRole("button", { name: "Change the drink to this size: party" }).click();
  await page.getByRole("button", { name: "Servings: 48 glasses of 250 ml" }).waitFor();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("combobox", { name: "Limited by" }).click();
  await page.getByRole("option", { name: "Dried hibiscus calyces" }).click();
  await page.getByRole("textbox", { name: "Amount you have" }).fill("2 glugs");
  await page.getByRole("button", { name: "Use this size" }).click();
  await page.getByText(/how much “glugs” of/).first().waitFor();
  await page.getByRole("textbox", { name: "Amount you have" }).fill("100 g");
  await page.getByRole("button", { name: "Use this size" }).click();
  await page.getByRole("button", { name: /^Servings: 1[67] glasses/ }).waitFor();
  for (let i = 0; i < 2; i++) await page.getByRole("button", { name: "Undo" }).click();
  await saved(page);
  // A party is made now, and the drink stays as it is.
  await page.getByRole("button", { name: "Make this size now: party" }).click();
  await page.getByRole("heading", { level: 2 }).getByText(/^Pour 7\.\d+ l water into the pot/).waitFor();
});

test("vessels: goes, another order, and whether it fits my jug", async ({ page }) => {
  await openDrink(page, "Hibiscus and bay-orange cooler");
  await page.getByRole("link", { name: "Size", exact: true }).click();
  await page.getByRole("button", { name: "Change the drink to this size: party" }).click();
  await page.getByRole("link", { name: "Vessels" }).click();
  await page.getByText(/^In 2 rounds/).waitFor();
  await page.locator('[data-fit="pot"]').getByText(/“Big pot”, in 2 rounds/).waitFor();
  await accessible(page, "the vessels");
  await page.getByRole("button", { name: "Use this order" }).click();
  await page.getByText(/^In 2 rounds/).waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  // Will it fit my 2.3 l jug? Touch the vessel, then the question.
  await page.getByRole("button", { name: /^Pitcher:/ }).click();
  await page.getByRole("combobox", { name: "Does it fit one of your vessels?" }).click();
  await page.getByRole("option", { name: /Glass jug, 2.3 l: it fits/ }).waitFor();
  await page.getByRole("option", { name: /Measuring jug, 1 l: 1.11 l too small/ }).click();
  await page.getByRole("button", { name: /^Measuring jug: 1\.\d\d l too much/ }).waitFor();
  await page.getByRole("button", { name: "Undo" }).click();
  await saved(page);
});

test("shopping: fruit with its chance, ticked off, priced, as a table; and learning from what came out", async ({ page }) => {
  await openDrink(page, "Melon and lime agua fresca");
  await page.getByRole("link", { name: "Size", exact: true }).click();
  await page.getByRole("link", { name: "Shopping" }).click();
  const limes = page.locator('[data-item="lime/medium"]');
  await limes.getByText(/enough/).first().waitFor();
  await accessible(page, "the shopping list");
  await limes.getByRole("checkbox").check();
  await page.reload();
  assert.ok(await limes.getByRole("checkbox").isChecked(), "ticked off is remembered");
  await limes.getByRole("checkbox").uncheck();
  const cost = await number(page, "cost");
  await page.getByRole("checkbox", { name: "Mandarin fizz" }).check();
  await page.locator('[data-item="mandarin/medium"]').waitFor();
  assert.ok((await changed(page, "cost", cost)) > cost);
  await page.getByRole("checkbox", { name: "Mandarin fizz" }).uncheck();

  await limes.getByRole("button", { name: "More about limes" }).click();
  await limes.getByRole("textbox", { name: "In stock, pieces" }).fill("0");
  await limes.getByRole("textbox", { name: "In stock, pieces" }).press("Enter");
  await limes.getByText(/there: 3/).waitFor({ state: "detached" });
  const form = limes.getByRole("form", { name: "What limes gave" });
  await form.getByRole("textbox", { name: "Number of limes" }).fill("5");
  await form.getByRole("textbox", { name: "gave, ml" }).fill("600");
  await form.getByRole("button", { name: "Save" }).click();
  await form.getByText(/120 ml each is unusual for limes/).waitFor();
  await form.getByRole("button", { name: "Measure again" }).click();
  await form.getByRole("textbox", { name: "gave, ml" }).fill("125");
  await form.getByRole("button", { name: "Save" }).click();
  await form.getByText(/We'll now use/).waitFor();
  await form.getByRole("button", { name: "Undo" }).click();
  await form.getByText("Undone.").waitFor();

  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as CSV" }).click();
  const table = await readFile(await (await download).path(), "utf8");
  assert.match(table, /^where,what,needed,buy/);
  assert.match(table, /cantaloupe/);
});

test("at the glass: order, standing, tastes, and the label", async ({ page }) => {
  await openDrink(page, "Mandarin fizz");
  await page.getByRole("link", { name: "Size", exact: true }).click();
  await page.getByRole("link", { name: "At the glass" }).click();
  await page.getByText("1 part base, 1 part soda water.").waitFor();
  await page.locator('[data-standing="own_ice"]').getByText("no ice water").first().waitFor();
  await page.getByRole("region", { name: "On the label" }).getByText(/soda water, mandarin juice/).waitFor();
  await page.getByRole("region", { name: "One base for every taste" }).getByText(/into the glass/).first().waitFor();
  await accessible(page, "the glass");
  await page.emulateMedia({ media: "print" });
  assert.ok(await page.getByRole("heading", { name: "Mandarin fizz" }).first().isVisible());
  assert.ok(!(await page.getByRole("button", { name: /^Pitcher:/ }).isVisible()), "the counter is not printed");
});
