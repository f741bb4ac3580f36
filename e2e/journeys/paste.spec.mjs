// A recipe as text becomes a drink.
import { test, openDrink, accessible, quiet } from "./kitchen.mjs";

test("a recipe is pasted, asked about, and is a drink on the shelf", async ({ page }) => {
  await page.goto("/");
  // The plans of the coming days are worked out, and stand above it.
  await quiet(page)();
  await page.getByRole("link", { name: "Paste a recipe" }).click();
  await page.getByLabel(/^The recipe/).fill(
    [
      "Lemonade for the gate",
      "4 big lemons, zest grated and juiced",
      "1 scant cup sugar",
      "a handful of lemon verbena",
      "water to make 3 litres",
      "bit of that elderflower stuff if you have it",
      "",
      "Rub the sugar into the zest and leaves. Let it sit half an hour, stir in a mugful of hot water, strain, juice in, top up.",
      "Serves 6. The children love it.",
    ].join("\n"),
  );
  await page.getByRole("button", { name: "Read the recipe" }).click();
  const goesIn = page.getByRole("region", { name: "Ingredients" });
  await goesIn.getByRole("button", { name: /white sugar.*190 g.*guessed/s }).waitFor();
  await page.getByRole("region", { name: "The recipe as it was read" }).locator("mark", { hasText: "a handful of lemon verbena" }).waitFor();
  await accessible(page, "a pasted recipe");
  // The text says two things, and one is chosen.
  await page.getByRole("button", { name: "1500 ml" }).click();
  await page.getByText(/^1\.\d+ l, \d+ glasses/).waitFor();
  // What is asked is answered; what is guessed is said.
  await goesIn.getByRole("button", { name: /elderflowers.*which/s }).click();
  await goesIn.getByRole("button", { name: "Add it back" }).click();
  await goesIn.getByRole("button", { name: "Leave it out" }).click();
  await goesIn.getByRole("button", { name: /elderflowers/ }).first().click();
  await goesIn.getByRole("button", { name: /white sugar/ }).click();
  await goesIn.getByLabel("How much").fill("180 g");
  await goesIn.getByRole("button", { name: "Use this amount" }).click();
  await goesIn.getByRole("button", { name: /white sugar.*180 g/s }).waitFor();
  // A reload loses nothing of it.
  await page.reload();
  await goesIn.getByRole("button", { name: /white sugar.*180 g/s }).waitFor();
  await page.getByRole("button", { name: "Save drink" }).click();
  await page.getByRole("heading", { name: "Lemonade for the gate" }).waitFor();
  await page.getByTestId("point").waitFor();
  await openDrink(page, "Lemonade for the gate");
});

test("what is still marked is asked about once before it is saved", async ({ page }) => {
  await page.goto("/paste");
  await page.getByLabel(/^The recipe/).fill("Lemonade\n4 lemons, juiced\n150 g sugar\n1 l water\n2 glugs of quince cheese\n\nStir and serve.");
  await page.getByRole("button", { name: "Read the recipe" }).click();
  await page.getByText("1 thing needs a look", { exact: true }).waitFor();
  await page.getByRole("button", { name: "Save drink" }).click();
  await page.getByRole("alert").getByText(/quince/).waitFor();
  await page.getByRole("button", { name: "Save it as it is" }).click();
  await page.getByRole("heading", { name: "Lemonade", level: 1 }).waitFor();
});

test("a printed card is photographed, and the drink comes back", async ({ page }) => {
  await openDrink(page, "Melon and lime agua fresca");
  await page.getByRole("navigation", { name: "Views of the drink" }).getByText("Steps").click();
  await page.evaluate(() => (window.print = () => (window.printed = (window.printed ?? 0) + 1)));
  await page.getByRole("button", { name: "Print the recipe" }).click();
  await page.waitForFunction(() => window.printed === 1);
  // What stands on the paper, as a camera would see it.
  await page.emulateMedia({ media: "print" });
  const photo = await page.getByRole("img", { name: "Picture code of this drink" }).screenshot();
  await page.emulateMedia({ media: "screen" });
  await page.goto("/paste");
  const field = page.getByLabel("A photo of a card");
  await field.setInputFiles({ name: "card.png", mimeType: "image/png", buffer: Buffer.from("no picture") });
  await page.getByText(/can't read “card.png” as a picture/).waitFor();
  await field.setInputFiles({ name: "card.png", mimeType: "image/png", buffer: photo });
  await page.waitForURL(/\/drinks\//);
  await page.getByRole("heading", { name: "Melon and lime agua fresca" }).waitFor();
});
