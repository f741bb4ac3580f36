// At the stove, with real batches.
import assert from "node:assert/strict";
import { open, phone } from "../browser.mjs";
import { test, openDrink, accessible, until } from "./kitchen.mjs";

test("at the stove: a drink is made step by step, measured, put right and finished", async ({ page }) => {
  await openDrink(page, "Hibiscus and bay-orange cooler");
  await page.getByRole("navigation", { name: "Views of the drink" }).getByText("Make").click();
  await page.getByRole("button", { name: "Make it now" }).waitFor();
  const ready = page.getByRole("region", { name: "Get ready" });
  await ready.getByText("Dried hibiscus calyces").waitFor();
  await ready.getByText(/pot, .*pitcher/).waitFor();
  await accessible(page, "the batches of a drink");
  await page.getByRole("button", { name: "Make it now" }).click();
  const step = page.getByRole("heading", { level: 2 });
  await step.getByText("Pour 1.3 l water into the pot.").waitFor();
  await accessible(page, "making");

  // Space says done; what goes on by itself stands above, over a reload.
  await page.keyboard.press("Space");
  await step.getByText("Heat the pot to 95 °C, covered.").waitFor();
  await page.getByRole("button", { name: "Started" }).click();
  const wait = page.getByRole("list", { name: "Waits" });
  await wait.getByText(/Heat the pot .*/).waitFor();
  await wait.locator("[data-wait=s2]").getByText(/\d+ min, until (tomorrow )?\d/).waitFor();
  await page.reload();
  await wait.locator("[data-wait=s2]").getByText(/\d+ min, until (tomorrow )?\d/).waitFor();

  // A second screen, the size of a phone, sees it and says done; the first one follows.
  const other = await page.context().newPage();
  await other.setViewportSize(phone);
  await other.goto(page.url());
  await other.getByRole("button", { name: /^Done: Heat the pot/ }).click();
  await step.getByText(/(Add|add) 50 g dried hibiscus/).waitFor();
  await accessible(other, "making on a phone");
  const wide = await other.evaluate(() => document.documentElement.scrollWidth);
  assert.ok(wide <= phone.width, `${wide} px wide`);
  await other.close();

  // More went in than is written: the point on the map follows.
  const point = page.getByRole("img", { name: /^Balance map/ });
  const before = await point.getAttribute("aria-label");
  await page.getByRole("button", { name: "Something went differently" }).click();
  const otherwise = page.getByRole("dialog", { name: "Something went differently" });
  await accessible(page, "it came out otherwise");
  assert.ok(await otherwise.getByRole("button", { name: "Save", exact: true }).isDisabled());
  await otherwise.getByRole("button", { name: "Too much" }).click();
  for (const key of ["1", "5"]) await otherwise.getByRole("button", { name: key, exact: true }).click();
  await otherwise.getByText("65 g in all").waitFor();
  await otherwise.getByRole("button", { name: "Save", exact: true }).click();
  // What went in is done with: it isn't asked for again.
  await step.getByText(/hibiscus/).waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Log" }).click();
  await page.getByText(/^Used 65 g: .*hibiscus/).waitFor();
  await page.getByRole("button", { name: "Close the list" }).click();
  assert.notEqual(await point.getAttribute("aria-label"), before);

  for (let left = 8; left > 0; left -= 1) {
    if (await page.getByText(/^Strain the pot/).first().isVisible()) break;
    const now = await step.innerText();
    const button = page.getByRole("button", { name: /^(Done|Started)$/ });
    // While a press is being answered the step may go on by itself: then there is nothing left to press.
    const pressed = (await button.isVisible()) ? button : wait.getByRole("button", { name: /^Done/ }).first();
    await pressed.click({ timeout: 5_000 }).catch(() => undefined);
    await page.waitForFunction((was) => document.querySelector("h2").innerText !== was, now);
  }
  await page.getByRole("button", { name: "Done", exact: true }).or(page.getByRole("button", { name: "Started" })).click();
  await step.getByText(/white sugar to the pitcher/).or(step.getByText("Nothing to do for now.")).waitFor();
  if (await step.getByText("Nothing to do for now.").isVisible())
    await wait.getByRole("button", { name: /^Done/ }).first().click();
  await step.getByText(/white sugar to the pitcher/).waitFor();

  // A silly reading is asked about, a likely one narrows the cloud.
  await page.getByRole("button", { name: "Measure" }).click();
  const measure = page.getByRole("dialog", { name: "Measure" });
  await measure.getByRole("combobox", { name: "What", exact: true }).click();
  await page.getByRole("option", { name: "°Brix" }).click();
  await measure.getByLabel("Reading").fill("38");
  await measure.getByRole("button", { name: "Save the reading" }).click();
  await page.getByText(/we expected .*give or take/).waitFor();
  await page.getByRole("button", { name: "Discard it" }).click();
  await page.getByRole("button", { name: "Measure" }).click();
  await measure.getByRole("combobox", { name: "What", exact: true }).click();
  await page.getByRole("option", { name: "volume, ml" }).click();
  await measure.getByLabel("Reading").fill("940");
  await measure.getByRole("button", { name: "Save the reading" }).click();
  await page.getByText(/^You read 940 ml; we expected \d+/).waitFor();

  // Another step is done first, and that is taken back, too.
  await page.getByRole("button", { name: "Something went differently" }).click();
  await otherwise.getByRole("button", { name: "Another step first" }).click();
  await otherwise.getByRole("combobox", { name: "Which step", exact: true }).click();
  await page.getByRole("option", { name: /^Squeeze 2/ }).click();
  await otherwise.getByRole("button", { name: "Save", exact: true }).click();
  await step.getByText(/^Squeeze 2/).waitFor();
  await page.keyboard.press("Backspace");
  await step.getByText(/white sugar to the pitcher/).waitFor();

  // Something wrong was said, and is taken back.
  await page.getByRole("button", { name: "Note" }).click();
  await page.getByRole("dialog", { name: "Note" }).getByLabel("Your note").fill("Too much bay");
  await page.getByRole("button", { name: "Save the note" }).click();
  await page.getByRole("button", { name: "Log" }).click();
  await page.getByRole("button", { name: "Undo: Too much bay" }).click();
  await page.getByRole("button", { name: "Undo: Too much bay" }).waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Close the list" }).click();

  for (let left = 14; left > 0; left -= 1) {
    const finish = page.getByRole("button", { name: "Finish", exact: true });
    if (await finish.isVisible()) break;
    const button = page.getByRole("button", { name: /^(Done|Started)$/ });
    const now = await step.innerText();
    // While a press is being answered the step may go on by itself: then there is nothing left to press.
    const pressed = (await button.isVisible()) ? button : wait.getByRole("button", { name: /^Done/ }).first();
    await pressed.click({ timeout: 5_000 }).catch(() => undefined);
    await page.waitForFunction((was) => document.querySelector("h2").innerText !== was, now);
  }
  await page.getByRole("button", { name: "Finish", exact: true }).click();
  // Asked once: how much, in what, where. What is typed is what is recorded.
  const finish = page.getByRole("dialog", { name: "Finish" });
  await accessible(page, "finishing");
  await finish.getByLabel("How much is there?").fill("2 l");
  await finish.getByLabel("How many").fill("2");
  await finish.getByText(/^1(\.0+)? l in each/).waitFor();
  await finish.getByLabel("Where exactly").fill("upper shelf");
  await finish.getByRole("button", { name: "Finish the batch" }).click();
  await step.getByText("Finished.").waitFor();
  await page.getByText("2 bottles, refrigerator, upper shelf").waitFor();
  await page.getByRole("row", { name: /^there is/ }).getByRole("cell", { name: /^2(\.0+)? l$/ }).last().waitFor();
  const standing = page.getByRole("region", { name: "Where it is kept" });
  await standing.getByText(/1(\.0+)? l/).first().waitFor();
  await page.getByRole("row", { name: /^acidity/ }).getByText(/±/).waitFor();
  await accessible(page, "a batch that is finished");
  await page.getByRole("link", { name: "Leave" }).click();
  await page.getByRole("region", { name: "Made" }).getByRole("link", { name: /^just now/ }).waitFor();
});

test("two drinks at once on two screens, and the server killed in the middle of a wait", async ({ page, demo, browser }) => {
  // The demo has a lemonade with its verbena drawing, and peels under sugar.
  await page.goto("/");
  const going = page.getByRole("region", { name: "Next" });
  await going.getByRole("link", { name: /^Lemon verbena lemonade/ }).first().click();
  const waits = page.getByRole("list", { name: "Waits" });
  await waits.getByText(/^Leave the bowl/).waitFor();
  await waits.getByText("Mandarin fizz").waitFor();
  const ends = await waits.locator('[data-wait="s6"]').getByRole("timer").innerText();

  // The phone at the stove, in a browser of its own.
  const other = await open(browser, demo.address, { viewport: phone });
  await other.goto(page.url());
  await other.getByRole("list", { name: "Waits" }).getByText(/^Leave the bowl/).waitFor();

  await demo.cut();
  await page.getByRole("button", { name: "Note" }).click();
  await page.getByLabel("Your note").fill("The power was off");
  await page.getByRole("button", { name: "Save the note" }).click();
  await page.getByText(/isn't answering/).waitFor();
  await demo.again();
  // What couldn't be said was said again, once; the other screen has heard of it.
  await page.getByText(/isn't answering/).waitFor({ state: "detached" });
  await other.getByRole("button", { name: "Log" }).click();
  await other.getByText("The power was off").waitFor();
  assert.equal(await other.getByText("The power was off").count(), 1);
  const until = (text) => text.split("until ")[1];
  assert.equal(until(await waits.locator('[data-wait="s6"]').getByRole("timer").innerText()), until(ends));

  // A page that is closed while the server is away loses nothing: the next one sends it, once.
  await demo.cut();
  await page.getByRole("button", { name: "Note" }).click();
  await page.getByLabel("Your note").fill("Off once more");
  await page.getByRole("button", { name: "Save the note" }).click();
  await page.getByText(/isn't answering/).waitFor();
  const here = page.url();
  await page.goto("about:blank");
  await demo.again();
  await page.goto(here);
  await other.getByText("Off once more").waitFor();
  assert.equal(await other.getByText("Off once more").count(), 1);

  // The phone says done, and the laptop follows; nothing counts twice.
  await other.getByRole("button", { name: /^Done: Leave the bowl/ }).click();
  await waits.locator('[data-wait="s6"]').waitFor({ state: "detached" });
  const step = page.getByRole("heading", { level: 2 });
  await step.getByText(/^Strain the bowl/).waitFor();
  await other.getByRole("heading", { level: 2 }).getByText(/^Strain the bowl/).waitFor();
  // On to the other drink, and back.
  await waits.getByRole("link", { name: "Go to Mandarin fizz" }).click();
  await page.getByRole("heading", { level: 1, name: "Mandarin fizz" }).waitFor();
  await waits.getByText("Lemon verbena lemonade").first().waitFor();
  await other.context().close();
});

test("what a batch taught is left, learned and taken back", async ({ page }) => {
  await openDrink(page, "Lemon verbena lemonade");
  await page.getByRole("navigation", { name: "Views of the drink" }).getByText("Make").click();
  await page.getByText(/\d+ of \d+ readings were within the expected range/).waitFor();
  const made = page.getByRole("region", { name: "Made" });
  await made.getByText(/\(written \d+\.\d g, 0\.\d\d %\)/).first().waitFor();
  await made.getByRole("link").first().click();
  const teaches = page.getByRole("region", { name: "What this batch shows" });
  await teaches.getByText(/^6 lemons gave \d+ ml/).waitFor();
  await teaches.getByText("Saved to your kitchen.").waitFor();
  await accessible(page, "what a batch teaches");
  await teaches.getByRole("button", { name: "Undo" }).click();
  await teaches.getByRole("button", { name: "Save to your kitchen" }).click();
  await teaches.getByText("Saved to your kitchen.").waitFor();
});

test("a plan's drink is made at its size, and the plan says whether it is in time", async ({ page }) => {
  await page.goto("/plan");
  await page.getByRole("link", { name: /Midsummer open day/ }).click();
  const making = page.getByRole("region", { name: "Making it" });
  await making.getByRole("button", { name: "Make Melon and lime agua fresca" }).click();
  await page.getByRole("heading", { level: 1, name: "Melon and lime agua fresca" }).waitFor();
  await page.getByText(/to spare/).waitFor();
  await page.goBack();
  await making.getByRole("link", { name: /^Melon and lime agua fresca: ready .* to spare/ }).waitFor();
});

test("a drink that is started too late moves the serving, and undo moves it back", async ({ page }) => {
  const plans = await (await page.request.get("/api/plans")).json();
  const { plan } = await (await page.request.get(`/api/plans/${plans.plans[0].id}`)).json();
  const soon = new Date(Date.now() + 30 * 60_000 - new Date().getTimezoneOffset() * 60_000);
  const serving = soon.toISOString().slice(0, 16);
  const made = await page.request.post("/api/plans", { data: { ...plan, name: "In half an hour", serving } });
  const { id } = await made.json();
  await page.goto(`/plan/${id}`);
  const making = page.getByRole("region", { name: "Making it" });
  await making.getByRole("button", { name: "Make Melon and lime agua fresca" }).click();
  await page.getByRole("heading", { level: 1, name: "Melon and lime agua fresca" }).waitFor();
  await page.goBack();
  await making.getByText(/ will be ready .* after it should be served/).waitFor();
  await making.getByRole("button", { name: /^Serve .* later$/ }).click();
  const inTime = making.getByRole("link", { name: /^Melon and lime agua fresca: ready .*, (as planned|.* to spare)$/ });
  await inTime.waitFor();
  await making.getByRole("status").waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await making.getByRole("button", { name: /^Serve .* later$/ }).waitFor();
});
