// Plans: back from the serving.
import assert from "node:assert/strict";
import { readFile } from "node:fs/promises";
import { phone } from "../browser.mjs";
import { test, saved, openDrink, accessible, composing } from "./kitchen.mjs";

test("a plan: from nothing to the evening before, kept, moved, bought for and taken along", async ({ page }) => {
  const strip = page.locator("[data-strip]");
  const told = page.locator("[data-told]");
  await page.goto("/plan");
  await page.getByRole("link", { name: /Midsummer open day/ }).waitFor();
  await accessible(page, "the plans");
  await page.getByRole("button", { name: "New plan" }).click();
  await page.getByText("No drinks yet.").waitFor();
  await page.getByRole("button", { name: "New plan" }).click();
  await page.getByRole("textbox", { name: "Name of the plan" }).fill("Sunday lunch");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Add drinks", exact: true }).click();
  const adding = page.getByRole("dialog", { name: "Add drinks" });
  for (const name of ["Tamarind cooler", "Hibiscus and bay-orange cooler"]) {
    await adding.getByRole("button", { name: `Add ${name}` }).click();
    await adding.getByRole("button", { name: `Add ${name}` }).getByText("once more").waitFor();
  }
  await accessible(page, "adding drinks to a plan");
  await adding.getByRole("button", { name: "Done" }).click();
  await told.getByText(/^Start at \d/).waitFor();
  await accessible(page, "a plan");

  // Another pair of hands, and a part on the evening before.
  const begin = () => told.locator("strong").innerText();
  const alone = await begin();
  await page.getByRole("button", { name: /1 cook/ }).click();
  const means = page.getByRole("dialog", { name: "Kitchen" });
  await means.getByRole("button", { name: "More: Cooks" }).click();
  await means.getByRole("button", { name: "Done" }).click();
  await page.getByRole("button", { name: /2 cooks/ }).waitFor();
  await page.getByRole("checkbox", { name: /^Tamarind cooler the evening before/ }).first().check();
  await told.getByText(/^Start on Friday/).waitFor();
  assert.notEqual(await begin(), alone);
  await saved(page);

  // The serving is moved by its flag, and by the keyboard: all else stays in its order.
  const inOrder = async () => {
    const id = new URL(page.url()).pathname.split("/").at(-1);
    const kept = await (await page.request.get(`/api/plans/${id}`)).json();
    const body = { plan: kept.plan, help: false, id: kept.id };
    const worked = await (await page.request.post("/api/compute/plan", { data: body })).json();
    return worked.plan.tasks.map((task) => task.id);
  };
  const before = await inOrder();
  const flag = page.getByRole("slider", { name: "Serving" });
  await flag.focus();
  await page.keyboard.press("ArrowLeft");
  await page.getByRole("button", { name: /serving at 14:55/ }).waitFor();
  await saved(page);
  assert.deepEqual(await inOrder(), before);
  const box = await flag.boundingBox();
  const pull = async () => {
    await page.mouse.move(box.x + 20, box.y + 10);
    await page.mouse.down();
    await page.mouse.move(box.x - 120, box.y + 10, { steps: 5 });
    await page.waitForFunction(
      (flag) => flag.innerText !== "14:55",
      await flag.elementHandle(),
    );
  };
  // A drag that is cancelled, by a call on the phone or by its own gestures, moves nothing.
  await pull();
  await flag.dispatchEvent("pointercancel");
  await page.waitForFunction((flag) => flag.innerText === "14:55", await flag.elementHandle());
  await page.mouse.up();
  await page.getByRole("button", { name: /serving at 14:55/ }).waitFor();
  await pull();
  await page.mouse.up();
  await page.waitForFunction(() => !document.body.innerText.includes("serving at 14:55"));
  await page.keyboard.press("Control+z");
  await page.getByRole("button", { name: /serving at 1[45]:[05][05]/ }).waitFor();

  // A block is opened, and held to its time.
  await strip.getByRole("button", { name: /Hibiscus and bay-orange cooler: heat/ }).click();
  const open = page.getByRole("region", { name: /^Hibiscus and bay-orange cooler:/ });
  await open.getByText(/Heat the pot to 95 °C/).waitFor();
  await open.getByRole("button", { name: /^When: Heat/ }).click();
  await open.getByRole("button", { name: "Pin to this time" }).click();
  await open.getByText("pinned to this time").waitFor();
  await accessible(page, "an open block");
  await open.getByRole("button", { name: "Unpin" }).click();
  await open.getByText("pinned to this time").waitFor({ state: "detached" });
  const after = open.getByRole("combobox", { name: /^Only after/ });
  await after.click();
  await page.getByRole("option", { name: /Tamarind cooler: strain/ }).click();
  await after.getByText(/Tamarind cooler: strain/).waitFor();
  await saved(page);
  await after.click();
  await page.getByRole("option", { name: "whatever comes before it anyway" }).click();

  // Twice as much of one of them.
  await strip.getByRole("button", { name: "Tamarind cooler: size and time" }).click();
  const size = page.getByRole("dialog", { name: "Tamarind cooler" });
  await size.getByLabel("or total litres").fill("4");
  await page.keyboard.press("Enter");
  await size.getByRole("button", { name: "Done" }).click();
  await strip.getByText(/^[34]\.\d\d l/).waitFor();

  await page.getByRole("button", { name: "Shopping for this plan" }).click();
  await page.locator('[data-item="hibiscus_dried"]').waitFor();
  await page.locator('[data-item="tamarind_pulp"]').waitFor();
  await saved(page);
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Calendar file" }).click();
  const calendar = await readFile(await (await download).path(), "utf8");
  assert.match(calendar, /SUMMARY:Hibiscus and bay-orange cooler: heat/);
  assert.match(calendar, /BEGIN:VALARM/);

  // It is found again, copied and removed.
  await page.goto("/plan");
  await page.getByLabel("Find a plan").fill("lunch");
  await page.getByRole("link", { name: /Midsummer/ }).waitFor({ state: "detached" });
  await page.getByRole("button", { name: "More for Sunday lunch" }).click();
  await page.getByRole("menuitem", { name: "Make a copy" }).click();
  await page.getByRole("heading", { name: "Sunday lunch, copy" }).waitFor();
  await told.waitFor();
  await page.goto("/plan");
  await page.getByRole("button", { name: "More for Sunday lunch, copy" }).click();
  await page.getByRole("menuitem", { name: "Delete" }).click();
  await page.getByText("Sunday lunch, copy was deleted.").waitFor();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.getByRole("link", { name: /Sunday lunch, copy/ }).waitFor();
});

test("a drink's own plan is kept, and follows the drink", async ({ page }) => {
  await openDrink(page, "Hibiscus and bay-orange cooler");
  await page.getByRole("navigation", { name: "Views of the drink" }).getByText("Plan").click();
  const told = page.locator("[data-told]");
  await told.waitFor();
  await page.getByText("Also in").getByRole("link", { name: "Midsummer open day" }).waitFor();
  await accessible(page, "a drink's plan");
  const before = await told.innerText();
  await page.getByRole("button", { name: "Save this plan" }).click();
  await page.waitForURL(/\/plan\/[0-9a-f-]+$/);
  await told.waitFor();
  assert.equal(await told.innerText(), before);

  // How long the steep may stand is said in the drink.
  await openDrink(page, "Hibiscus and bay-orange cooler");
  await page.goto(`${page.url()}/steps`);
  const step = page.getByRole("button", { name: /Leave the pot for 20 minutes/ }).first();
  await step.click();
  await page.getByRole("button", { name: "Set how long it may wait" }).click();
  const { type } = composing(page);
  await type("May wait afterwards, minutes", "a while");
  await page.getByText(/^Enter a time/).waitFor();
  // It says *saved* from before: what was typed is first read, then kept.
  const kept = page.waitForResponse((answer) => answer.request().method() === "PUT" && answer.ok());
  await type("May wait afterwards, minutes", "15");
  await kept;
  await saved(page);
  await page.reload();
  await step.click();
  assert.equal(await page.getByLabel("May wait afterwards, minutes").inputValue(), "15");
});

test("a plan stands upright on a phone", async ({ page }) => {
  await page.setViewportSize(phone);
  await page.goto("/plan");
  await page.getByRole("link", { name: /Midsummer open day/ }).click();
  await page.locator("[data-told]").getByText(/Start on Friday/).waitFor();
  await accessible(page, "a plan on a phone");
  const first = page.locator("[data-strip]").getByRole("button", { name: /simmer/ });
  const last = page.locator("[data-strip]").getByRole("button", { name: /pour out/ }).last();
  const [top, bottom] = [await first.boundingBox(), await last.boundingBox()];
  assert.ok(bottom.y > top.y + 300, "time runs down");
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  assert.ok(wide <= phone.width, `${wide} px wide`);
  await first.click();
  await page.getByRole("region", { name: /^Ginger and lemongrass syrup/ }).waitFor();
});

test("what would help shows what it moves before it moves anything", async ({ page }) => {
  await page.goto("/plan");
  await page.getByRole("link", { name: /Midsummer open day/ }).click();
  const helps = page.getByRole("region", { name: "What would help" });
  await helps.getByRole("button", { name: "Show changes" }).first().click();
  await helps.getByText(/^Start/).waitFor();
  await accessible(page, "a change of a plan before it is made");
  const told = page.locator("[data-told]");
  const before = await told.innerText();
  await helps.getByRole("button", { name: "Leave it" }).click();
  assert.equal(await told.innerText(), before, "looking changes nothing");
  await helps.getByRole("button", { name: "Show changes" }).first().click();
  await helps.getByRole("button", { name: "Make this change" }).click();
  await page.waitForFunction((was) => document.querySelector("[data-told]")?.innerText !== was, before);
  await page.getByRole("button", { name: "Undo" }).click();
  await page.waitForFunction((was) => document.querySelector("[data-told]")?.innerText === was, before);
});
