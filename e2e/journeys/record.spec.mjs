// What was made and what is kept: history, bottles, labels, the backup.
import assert from "node:assert/strict";
import { test, openDrink, accessible } from "./kitchen.mjs";

test("history: batches side by side, a version named and brought back, a variant begun", async ({ page }) => {
  await openDrink(page, "Lemon verbena lemonade");
  await page.getByRole("navigation", { name: "Views of the drink" }).getByText("History").click();
  const table = page.getByRole("region", { name: "Batches side by side" });
  await table.getByRole("row", { name: /^white sugar/ }).waitFor();
  assert.equal(await table.getByRole("columnheader").count(), 4, "three batches and as it is written");
  await page.getByRole("region", { name: "What your batches show" }).getByText(/\(\d+ batches\)|in \d|every time|No patterns/).first().waitFor();
  await accessible(page, "history");
  await page.getByRole("group", { name: "Side by side" }).getByRole("button").first().click();
  await page.waitForFunction(() => document.querySelectorAll("[aria-label='Batches side by side'] thead th").length === 3);

  const versions = page.getByRole("region", { name: "Versions" });
  const sweeter = versions.getByRole("listitem").filter({ hasText: "a little less sweet" });
  await sweeter.getByText(/white sugar 220 g → 200 g/).waitFor();
  await sweeter.getByRole("button", { name: "Bring back" }).click();
  await versions.getByRole("listitem").first().getByText(/white sugar .* → 200 g/).waitFor();
  await versions.getByRole("listitem").first().getByRole("button", { name: "Name" }).click();
  await page.getByLabel("Name of the version").fill("as last summer");
  await page.getByRole("button", { name: "Keep this version" }).click();
  await versions.getByText("“as last summer”").waitFor();
  await page.reload();
  await versions.getByText("“as last summer”").waitFor();

  // What it costs stands in the table; named versions lie on the map, others when they are wanted.
  await table.getByRole("row", { name: /^cost \d/ }).waitFor();
  await page.getByText(/^a little less s.*…$/).waitFor();
  const first = versions.getByRole("listitem").last().getByRole("button", { name: "On the map" });
  assert.equal(await first.getAttribute("aria-pressed"), "false");
  await first.click();
  await page.waitForFunction(() => document.querySelectorAll("[data-testid=versions] path").length === 2);
  await first.click();
  await page.waitForFunction(() => document.querySelectorAll("[data-testid=versions] path").length === 1);

  // A batch gets its picture; what is none is refused, and what is taken away is gone.
  const photo = { name: "jug.png", mimeType: "image/png", buffer: await page.screenshot() };
  await table.getByRole("link").first().click();
  const picture = page.getByRole("region", { name: "Picture" });
  await picture.getByLabel("A picture's file").setInputFiles({ ...photo, buffer: Buffer.from("no picture") });
  await picture.getByText("This browser can't read “jug.png” as a picture.").waitFor();
  await picture.getByLabel("A picture's file").setInputFiles(photo);
  await picture.getByRole("img", { name: /Lemon verbena lemonade, finished/ }).waitFor();
  await accessible(page, "a batch with its picture");
  await page.goBack();
  const seen = table.getByRole("img", { name: /^as made on/ });
  await seen.waitFor();
  await page.waitForFunction(() => document.querySelector("th img")?.naturalWidth === 1280);
  await table.getByRole("link").first().click();
  await picture.getByRole("button", { name: "Delete the picture" }).click();
  await picture.getByRole("button", { name: "Yes, delete" }).click();
  await picture.getByRole("button", { name: "Add a picture" }).waitFor();
  await page.goBack();
  await seen.waitFor({ state: "detached" });

  await page.getByRole("button", { name: /^Search batches of/ }).click();
  const find = page.getByRole("region", { name: "Find a batch" });
  await find.getByRole("combobox", { name: "Of", exact: true }).click();
  await page.getByRole("option", { name: "all drinks" }).click();
  await find.getByRole("link", { name: /Hibiscus/ }).first().waitFor();
  await find.getByLabel("A word or a name").fill("lemonade");
  await find.getByRole("link", { name: /Hibiscus/ }).first().waitFor({ state: "detached" });

  await versions.getByRole("listitem").filter({ hasText: "a little less sweet" }).getByRole("button", { name: "Variant" }).click();
  await page.getByRole("heading", { name: "Lemon verbena lemonade, a little less sweet" }).waitFor();
});

test("kept: poured off, moved, tipped away and taken back; and put in", async ({ page }) => {
  await page.goto("/kept");
  await page.getByRole("region", { name: "Freezer" }).getByRole("link", { name: /Lemon verbena/ }).waitFor();
  await accessible(page, "kept");
  const fridge = page.getByRole("region", { name: "Refrigerator" });
  await fridge.getByRole("link", { name: /Blackcurrant/ }).first().click();
  const open = page.getByRole("region", { name: "Blackcurrant vinegar cordial" });
  await open.getByRole("region", { name: "Use it up" }).getByText(/sweetens .* of /).first().waitFor();
  await accessible(page, "a bottle");
  await open.getByRole("button", { name: "Pour some" }).click();
  await open.getByRole("button", { name: "100 ml" }).click();
  await open.getByLabel("What for").fill("the gate");
  await open.getByRole("button", { name: "Pour", exact: true }).click();
  await open.getByText("600 ml").first().waitFor();
  await open.getByRole("button", { name: "To the freezer" }).click();
  await page.getByRole("region", { name: "Freezer" }).getByRole("link", { name: /Blackcurrant/ }).waitFor();
  await open.getByRole("button", { name: "Undo: to the freezer" }).click();
  await page.getByRole("region", { name: "Freezer" }).getByRole("link", { name: /Blackcurrant/ }).waitFor({ state: "detached" });
  await open.getByRole("button", { name: "Discarded" }).click();
  await open.getByRole("button", { name: "It spoiled" }).click();
  await open.getByText("This bottle is empty.").waitFor();

  await page.getByRole("button", { name: "Add a bottle" }).click();
  await page.getByLabel("Which drink").fill("Rhubarb");
  await page.getByRole("option", { name: "Rhubarb and vanilla syrup" }).click();
  await page.getByLabel("How many").fill("2");
  await page.getByRole("button", { name: "Put them there" }).click();
  await fridge.getByRole("link", { name: /Rhubarb/ }).nth(2).waitFor();
  assert.equal(await fridge.getByRole("link", { name: /Rhubarb/ }).count(), 3);

  // What is kept is an ingredient.
  await openDrink(page, "Tamarind cooler");
  await page.getByRole("button", { name: "Add an ingredient" }).click();
  await page.getByLabel("Ingredient, with or without its amount").fill("rhubarb and vanilla");
  await page.getByText("Rhubarb and vanilla syrup").first().waitFor();
});

test("labels: nothing runs out of its sticker, whatever the name", async ({ page }) => {
  const names = [
    "Blackcurrant, rosemary and pink peppercorn vinegar cordial 12",
    "شراب الليمون والنعناع مع ماء الزهر والقليل من السكر البني",
    "🍋🍓🍊🍋🍓🍊 summer jug 🍹🍹🍹 for everybody at the gate",
  ];
  await page.goto("/");
  await page.locator("[data-drink]").first().waitFor();
  await page.evaluate(async (names) => {
    const post = (path, body) =>
      fetch(path, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
    const { starting_points: starts } = await (await fetch("/api/starting-points")).json();
    for (const name of names) {
      const drink = { ...starts[1].drink, name };
      const made = await (await post("/api/drinks", drink)).json();
      await post("/api/kept", { drink: made.id, bottles: [{ ml: 700 }] });
    }
  }, names);
  await page.goto("/kept/labels");
  const sheet = page.getByTestId("label-page").first();
  await sheet.getByText(/peppercorn/).first().waitFor();
  await accessible(page, "labels");
  const formats = await page.evaluate(async () => (await (await fetch("/api/labels")).json()).formats.map((f) => f.name));
  for (const format of formats) {
    await page.getByRole("combobox", { name: "Paper" }).click();
    await page.getByRole("option", { name: format }).click();
    const [id] = await page.evaluate(
      async (name) => (await (await fetch("/api/labels")).json()).formats.filter((f) => f.name === name).map((f) => f.id),
      format,
    );
    await page.locator(`[data-testid=label-page][data-format=${id}] text`).first().waitFor();
    const out = await page.evaluate(async (name) => {
      const { width, height } = (await (await fetch("/api/labels")).json()).formats.find((f) => f.name === name);
      const wrong = [];
      for (const label of document.querySelectorAll("[data-testid=label-page] g.label")) {
        for (const text of label.querySelectorAll("text")) {
          const box = text.getBBox();
          if (box.x < -0.05 || box.x + box.width > width + 0.05 || box.y + box.height > height + 0.6) {
            wrong.push(`${name}: ${text.textContent} ${JSON.stringify(box)}`);
          }
        }
      }
      return { wrong, labels: document.querySelectorAll("g.label").length };
    }, format);
    assert.deepEqual(out.wrong, []);
    assert.ok(out.labels >= 10, `${out.labels} labels`);
  }
});

test("the whole house is saved, changed, and put back", async ({ page }) => {
  await page.goto("/drinks");
  await page.getByRole("button", { name: "Backup" }).click();
  const dialog = page.getByRole("dialog", { name: "Backup" });
  await accessible(page, "backup");
  const download = page.waitForEvent("download");
  await dialog.getByRole("link", { name: "Save everything" }).click();
  const file = await (await download).path();
  const { readFile: read, writeFile } = await import("node:fs/promises");
  const saved = `${file}.zip`;
  await writeFile(saved, await read(file));
  await dialog.getByRole("button", { name: "Close" }).click();

  await page.getByRole("button", { name: "More for Tamarind cooler" }).click();
  await page.getByRole("menuitem", { name: "Delete" }).click();
  await page.locator("[data-drink='Tamarind cooler']").waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Backup" }).click();
  const damaged = `${file}.damaged.zip`;
  const bytes = await read(saved);
  bytes.fill(7, Math.floor(bytes.length / 3), Math.floor(bytes.length / 2));
  await writeFile(damaged, bytes);
  await dialog.getByLabel("A backup file").setInputFiles(damaged);
  await dialog.getByRole("alertdialog").getByRole("button", { name: "Restore" }).click();
  await dialog.getByText(/This backup is damaged|isn't a Keen Pitcher backup/).waitFor();
  await dialog.getByLabel("A backup file").setInputFiles(saved);
  await dialog.getByRole("alertdialog").getByRole("button", { name: "Restore" }).click();
  await dialog.getByText(/^Restored\. Your previous data was saved as .*before/).waitFor();
  await dialog.getByRole("button", { name: "Close" }).click();
  await page.locator("[data-drink='Tamarind cooler']").waitFor();
});

test("a data file that was written over is restored from its backup in the window", async ({ page, demo }) => {
  await page.goto("/drinks");
  await page.getByRole("button", { name: "Backup" }).click();
  const dialog = page.getByRole("dialog", { name: "Backup" });
  await dialog.getByRole("button", { name: "Back up now" }).click();
  await dialog.getByText(/^Backed up and checked: /).waitFor();
  await demo.cut();
  const { writeFile } = await import("node:fs/promises");
  await writeFile(demo.file, "a letter to my aunt ".repeat(99));
  await demo.again();
  await page.goto("/");
  await page.getByText(/The data file can't be used any more/).waitFor();
  await page.getByRole("button", { name: "Restore a backup" }).click();
  await accessible(page, "backups");
  await dialog.getByRole("list", { name: "Backups" }).getByRole("button", { name: "Restore" }).first().click();
  await dialog.getByRole("alertdialog").getByRole("button", { name: "Restore" }).click();
  await dialog.getByText(/^Restored\. Your previous data was saved as .*damaged/).waitFor();
  await dialog.getByRole("button", { name: "Close" }).click();
  await page.getByText(/The data file can't be used any more/).waitFor({ state: "detached" });
  await page.goto("/drinks");
  await page.locator("[data-drink='Tamarind cooler']").waitFor();
});
