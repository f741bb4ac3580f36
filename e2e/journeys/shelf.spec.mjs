// The shelf of drinks, full, empty and damaged.
import assert from "node:assert/strict";
import { readFile } from "node:fs/promises";
import { test, accessible } from "./kitchen.mjs";

test("the shelf: find, begin, copy, rename, take off and put back", async ({ page }) => {
  await page.goto("/");
  const bottles = page.locator("[data-drink]");
  await bottles.getByRole("link", { name: "Mandarin fizz" }).waitFor();
  await accessible(page, "the shelf");
  await page.getByLabel("Find a drink").fill("cucumb");
  await bottles.getByRole("link", { name: "Mandarin fizz" }).waitFor({ state: "detached" });
  await bottles.getByRole("link", { name: "Mint and cucumber water" }).waitFor();
  await page.getByLabel("Find a drink").fill("no such thing");
  await page.getByText("No drink is called “no such thing”.").waitFor();
  await page.getByLabel("Find a drink").fill("");

  await page.getByRole("button", { name: "More for Tamarind cooler" }).click();
  await page.getByRole("menuitem", { name: "Make a copy" }).click();
  await page.getByRole("heading", { name: "Tamarind cooler, copy" }).waitFor();
  await page.goto("/");
  await page.getByRole("button", { name: "More for Tamarind cooler, copy" }).click();
  await page.getByRole("menuitem", { name: "Rename" }).click();
  await page.getByRole("textbox", { name: "Name" }).fill("Saturday's tamarind");
  await accessible(page, "renaming");
  await page.getByRole("button", { name: "Rename" }).click();
  await page.getByRole("link", { name: "Saturday's tamarind" }).waitFor();

  await page.getByRole("button", { name: "More for Saturday's tamarind" }).click();
  await page.getByRole("menuitem", { name: "Delete" }).click();
  await page.getByRole("link", { name: "Saturday's tamarind" }).waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.getByRole("link", { name: "Saturday's tamarind" }).waitFor();

  // Days later it still lies in the bin.
  await page.getByRole("button", { name: "More for Saturday's tamarind" }).click();
  await page.getByRole("menuitem", { name: "Delete" }).click();
  await page.getByRole("link", { name: "Saturday's tamarind" }).waitFor({ state: "detached" });
  await page.goto("/drinks");
  await page.getByRole("button", { name: "Deleted drinks" }).click();
  const bin = page.getByRole("dialog", { name: "Deleted drinks" });
  await bin.getByText(/removed just now, \d+ days left/).first().waitFor();
  await accessible(page, "the bin");
  await bin.getByRole("button", { name: "Restore Saturday's tamarind" }).click();
  await bin.getByText("Saturday's tamarind").waitFor({ state: "detached" });
  await bin.getByRole("button", { name: "Close" }).click();
  await page.getByRole("link", { name: "Saturday's tamarind" }).waitFor();

  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "More for Saturday's tamarind" }).click();
  await page.getByRole("menuitem", { name: "Save as a file" }).click();
  const file = await (await download).path();
  const kept = JSON.parse(await readFile(file, "utf8"));
  assert.equal(kept.drink.name, "Saturday's tamarind");

  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "New drink", exact: true }).click();
  await page.getByRole("button", { name: /^Blended, strained, rinsed/ }).waitFor();
  await accessible(page, "beginning a drink");
  await page.getByLabel("A drink's file").setInputFiles(file);
  await page.getByRole("heading", { name: "Saturday's tamarind" }).waitFor();
});

test("today: what is on the go, what must be used soon, the shelf, and its places", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("region", { name: "Next" }).getByRole("link", { name: /Lemon verbena lemonade/ }).first().waitFor();
  const soon = page.getByRole("region", { name: "Use soon" });
  const over = page.getByRole("region", { name: "Past its date: discard" });
  await over.getByRole("link", { name: /Mint and cucumber water.*days? past its date/s }).waitFor();
  assert.equal(await soon.getByRole("link", { name: /Mint and cucumber water/ }).count(), 0, "past its date is not soon");
  await page.getByRole("link", { name: /Midsummer open day/ }).waitFor();
  await page.getByRole("link", { name: /syrup kept \d+ to \d+ days in your kitchen/ }).waitFor();
  await accessible(page, "today");
  await soon.getByRole("link", { name: /Ginger and lemongrass syrup/ }).click();
  await page.getByRole("region", { name: "Use it up" }).getByText(/glasses with soda water/).waitFor();

  await page.getByRole("navigation", { name: "Places" }).getByText("Drinks").click();
  await page.getByRole("button", { name: /^in bottles/ }).click();
  const bottles = page.locator("[data-drink]");
  await bottles.filter({ hasText: "Mandarin fizz" }).waitFor({ state: "detached" });
  assert.equal(await bottles.count(), 3, "three are filed under it");
  await page.getByRole("button", { name: /^in bottles/ }).click();
  await page.getByLabel("With these ingredients").fill("hibiscus");
  await page.getByRole("option", { name: /Dried hibiscus/ }).click();
  await bottles.filter({ hasText: "Mandarin fizz" }).waitFor({ state: "detached" });
  assert.deepEqual(await bottles.evaluateAll((all) => all.map((b) => b.dataset.drink)), ["Hibiscus and bay-orange cooler"]);
  await page.getByRole("button", { name: "Clear" }).click();
  await page.getByRole("combobox", { name: "Order" }).click();
  await page.getByRole("option", { name: "best liked" }).click();
  await bottles.first().getByText(/liked 5\.0 of 5/).waitFor();
  await page.getByRole("button", { name: "More for Tamarind cooler" }).click();
  await page.getByRole("menuitem", { name: "Edit tags" }).click();
  await page.getByLabel("Tags, separated by commas").fill("winter, for guests");
  await page.getByRole("button", { name: "Save tags" }).click();
  await page.getByRole("button", { name: /^for guests · 1/ }).waitFor();
  await accessible(page, "the drinks");
});

test.describe("on an empty shelf", () => {
  test.use({ command: "serve" });

  test("an empty shelf offers three ways in", async ({ page }) => {
    await page.goto("/");
    await page.getByRole("heading", { name: "Your shelf is empty" }).waitFor();
    await accessible(page, "the empty shelf");
    await page.getByRole("link", { name: /Paste a recipe/ }).click();
    await page.getByRole("heading", { name: "Paste a recipe" }).waitFor();
    await page.goBack();
    await page.getByRole("link", { name: /Find my balance/ }).click();
    await page.goBack();
    await page.getByRole("button", { name: /A starting point/ }).click();
    await page.getByRole("button", { name: /^Rubbed zest/ }).click();
    await page.getByRole("heading", { name: "Lemonade with rubbed zest" }).waitFor();
  });

  test("the map explains itself once, and every empty place offers the next step", async ({ page }) => {
    await page.goto("/drinks");
    await page.getByText("No drinks yet.").waitFor();
    assert.equal(await page.title(), "Drinks · Keen Pitcher");
    for (const [place, step] of [["plan", "Plan a serving"], ["kept", "Add a bottle you have"]]) {
      await page.goto(`/${place}`);
      await page.getByRole("button", { name: step }).waitFor();
    }
    await page.goto("/drinks");
    await page.getByRole("button", { name: /^One glass/ }).click();
    const note = page.getByRole("note", { name: "About the map" });
    await note.getByText("The dot is your drink").waitFor();
    await accessible(page, "the map's notes");
    for (const press of ["Next", "Next", "Close"]) await note.getByRole("button", { name: press }).click();
    await note.waitFor({ state: "detached" });
    await page.reload();
    await page.getByRole("img", { name: /^Balance map/ }).waitFor();
    assert.equal(await note.count(), 0, "it is read for good");
  });
});

test("a damaged drink: named on the shelf, its text to be saved", async ({ page }) => {
  const why = "It breaks off in the middle.";
  const entry = { id: "01890000-0000-7000-8000-000000000001", name: "Quince fizz", changed_at: new Date().toISOString(), why };
  await page.route("**/api/drinks?**", async (route) => {
    const answer = await route.fetch();
    const shelf = await answer.json();
    await route.fulfill({ response: answer, json: { ...shelf, damaged: [entry] } });
  });
  await page.goto("/");
  const damaged = page.getByRole("region", { name: "Damaged drinks" });
  await damaged.getByText(why).waitFor();
  assert.equal(
    await damaged.getByRole("link", { name: "Save its text" }).getAttribute("href"),
    `/api/drinks/${entry.id}/file`,
  );
  await accessible(page, "a shelf with a damaged drink");
});
