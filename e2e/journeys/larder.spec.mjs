// What can I make? From what is there to a drink on the shelf.
import assert from "node:assert/strict";
import { test, accessible, number } from "./kitchen.mjs";

test("what is there becomes drinks, worked out, and one of them is made", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "What can I make?" }).first().click();
  await page.getByRole("textbox", { name: /^What you have/ }).fill("8 limes going hard, a kilo of sugar, a rusty nail; six people tomorrow at four");
  const understood = page.getByRole("list", { name: "Understood" });
  await understood.getByText("8 limes").waitFor();
  await understood.getByText("“a rusty nail”: not understood").waitFor();
  await understood.getByText("ready by tomorrow 16:00").waitFor();
  const offers = page.getByRole("list", { name: "You can make" }).getByRole("listitem");
  await offers.first().getByText(/all 8 limes/).waitFor();
  const all = await offers.count();
  assert.ok(all >= 3 && all <= 8, `${all} drinks`);
  await accessible(page, "what can be made");
  // For one who likes it otherwise it is balanced otherwise.
  const ends = () => offers.first().innerText();
  const before = await ends();
  await page.getByLabel("Balanced for").selectOption({ label: "The beekeeper" });
  await page.waitForFunction((was) => document.querySelector("ul[aria-label='You can make'] li")?.innerText !== was, before);
  await page.getByLabel("Balanced for").selectOption({ label: "most people" });
  await page.waitForFunction((was) => document.querySelector("ul[aria-label='You can make'] li")?.innerText === was, before);
  // Without what a guest mustn't have, and from the bottles that stand there as well or not at all.
  await page.getByRole("button", { name: "no honey" }).click();
  await page.getByRole("switch", { name: "Use bottles from Kept" }).click();
  await understood.getByText(/ginger and lemongrass/i).waitFor({ state: "detached" });
  const name = await offers.first().getByRole("heading").innerText();
  await offers.first().getByRole("button", { name: `Make ${name}` }).click();
  await page.getByRole("heading", { level: 1, name }).waitFor();
  assert.ok((await number(page, "acidity")) > 0.2, "it is a drink that can be run");
  // Nothing cold is ready in two minutes: what would be late is told, and when it would be ready.
  await page.goto("/make-from?have=8%20limes%2C%20sugar%3B%20four%20people%20in%202%20minutes");
  await offers.first().getByText("not ready by then").waitFor();
  // The address keeps what was typed.
  await page.goto("/make-from?have=2%20kg%20watermelon");
  await understood.getByText("Watermelon, 2 kg").waitFor();
});
