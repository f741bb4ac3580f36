// The cupboard and the syrup desk.
import assert from "node:assert/strict";
import { test, number, openDrink, accessible } from "./kitchen.mjs";

test("the cupboard: own figures and back, a weighed cup, an ingredient and a pot of one's own", async ({ page }) => {
  await page.goto("/cupboard");
  const lemon = page.getByRole("region", { name: "Lemon juice" });
  await lemon.waitFor();
  await accessible(page, "the cupboard's ingredients");
  await lemon.getByRole("textbox", { name: "acid, g in 100 g" }).fill("6.1");
  await lemon.getByRole("textbox", { name: "acid, g in 100 g" }).press("Enter");
  await lemon.getByRole("button", { name: "Reset acid" }).waitFor();
  await openDrink(page, "Lemon verbena lemonade");
  assert.ok((await number(page, "acidity")) > 0.62, "sharper lemons make it sharper");
  await page.goto("/cupboard");
  await lemon.getByRole("button", { name: "Reset acid" }).click();
  await lemon.getByRole("button", { name: "Reset acid" }).waitFor({ state: "detached" });
  // What is typed before the table's figure is there again would be typed beside it.
  await lemon.getByRole("textbox", { name: "acid, g in 100 g" }).evaluate(async (field, own) => {
    while (field.value === own) await new Promise(requestAnimationFrame);
  }, "6.1");
  await lemon.getByRole("textbox", { name: "acid, g in 100 g" }).fill("much");
  await lemon.getByRole("textbox", { name: "acid, g in 100 g" }).press("Enter");
  await lemon.getByText("Enter a number, such as 2.5 or 1 1/2.").waitFor();

  await page.getByLabel("Find an ingredient").fill("jaggery");
  await page.getByRole("button", { name: /^Raw cane sugar/ }).click();
  await page.getByRole("textbox", { name: "weighs, g" }).fill("190");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.getByText("Saved: your US cup weighs 190 g.").waitFor();
  await page.getByRole("button", { name: "Reset weight of a millilitre" }).click();

  await page.getByRole("button", { name: "Add your own" }).click();
  await page.getByRole("textbox", { name: "Name" }).fill("Quince juice");
  await page.getByRole("combobox", { name: "Kind" }).click();
  await page.getByRole("option", { name: "juice", exact: true }).click();
  await page.getByRole("textbox", { name: "sugars, g in 100 g" }).fill("9");
  await page.getByRole("textbox", { name: "acid, g in 100 g" }).fill("0,9");
  await accessible(page, "an ingredient of one's own");
  await page.getByRole("button", { name: "Add to the cupboard" }).click();
  const quince = page.getByRole("region", { name: "Quince juice" });
  await quince.getByText("Your own.").waitFor();
  await quince.getByRole("button", { name: "Delete this ingredient" }).click();
  await quince.getByRole("button", { name: "Yes, delete" }).click();
  await lemon.waitFor();

  await page.getByRole("tab", { name: "Produce" }).click();
  await page.getByRole("button", { name: /^Lime peel/ }).waitFor({ state: "detached" });
  await page.getByRole("button", { name: /^Lime/ }).click();
  await page.getByRole("region", { name: "Lime" }).getByRole("textbox", { name: "juice by hand, ml" }).first().waitFor();
  await accessible(page, "the cupboard's produce");
  await page.getByRole("tab", { name: "Vessels and strainers" }).click();
  await page.getByRole("combobox", { name: "Add a vessel" }).click();
  await page.getByRole("option", { name: "Pot" }).click();
  const pots = page.getByRole("listitem").filter({ has: page.getByRole("textbox", { name: "Name" }) });
  const pot = pots.last();
  await pot.getByRole("textbox", { name: "Name" }).fill("Jam pot");
  await pot.getByRole("textbox", { name: "Name" }).press("Enter");
  await page.getByRole("button", { name: "Delete Jam pot" }).waitFor();
  await accessible(page, "the cupboard's vessels");
  await page.getByRole("button", { name: "Delete Jam pot" }).click();
  await page.getByRole("button", { name: "Yes, delete" }).click();
  await page.getByRole("listitem", { name: "Jam pot" }).waitFor({ state: "detached" });
  await page.getByRole("tab", { name: "Measures and pots" }).click();
  await page.getByRole("switch", { name: "Measuring spoons" }).waitFor();
  await accessible(page, "the cupboard's measures");
});

test("the syrup desk: ratio, boiling down, dilution, crystals", async ({ page }) => {
  await page.goto("/syrup");
  await page.waitForFunction(() => document.querySelector('[data-figure="syrup-brix"]')?.innerText.startsWith("50"));
  // The line in the pot is dragged down, and moved by keys.
  const line = page.getByRole("slider", { name: "Boil down to" });
  const grip = await line.locator("circle").boundingBox();
  await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
  await page.mouse.down();
  await page.mouse.move(grip.x + grip.width / 2, grip.y + 40, { steps: 4 });
  await page.mouse.up();
  await page.waitForFunction(() => Number(document.querySelector('[role="slider"]').getAttribute("aria-valuenow")) > 58);
  await line.focus();
  await page.keyboard.press("PageUp");
  await page.getByRole("radio", { name: "8 g in 100 g" }).check();
  await page.getByRole("textbox", { name: "Reduce to, °Bx" }).fill("68");
  await page.getByText(/above the bottom of\s+the pot/).waitFor();
  await page.getByText(/Crystals form/).waitFor();
  await accessible(page, "the syrup desk");
  await page.getByRole("textbox", { name: "Reduce to, °Bx" }).fill("95");
  await page.getByRole("alert").getByText("Enter 1 to 80 °Bx.").waitFor();
});
