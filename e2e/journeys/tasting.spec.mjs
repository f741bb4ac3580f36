// Tastings, from one glass to a table.
import assert from "node:assert/strict";
import { open, phone } from "../browser.mjs";
import { test, saved, number, openDrink, accessible, ill, quiet } from "./kitchen.mjs";

test.describe("on an empty shelf", () => {
  test.use({ command: "serve" });

  test("tasting: from an empty shelf to one's own balance, on the phone", async ({ page, demo, browser }) => {
    const small = await open(browser, demo.address, { viewport: phone, hasTouch: true, isMobile: true });
    small.setDefaultTimeout(40_000);
    await small.goto("/tasting");
    await small.getByRole("heading", { name: "Tasters" }).waitFor();
    await accessible(small, "tasting, on the phone, with nobody there yet");
    await small.getByRole("link", { name: /^Find my balance/ }).click();
    await small.getByLabel("Add a taster").fill("Wren");
    await small.getByRole("button", { name: "Add", exact: true }).click();
    await small.getByRole("button", { name: "Wren", pressed: true }).waitFor();
    await small.getByRole("button", { name: "Start", exact: true }).click();
    await small.getByText("200 g white sugar").waitFor();
    await small.getByRole("button", { name: "The jugs are ready" }).click();
    // A tongue that likes it at about 22 to 1 answers by what the glass is.
    let glasses = 0;
    for (; glasses < 16; glasses += 1) {
      // The next glass is there, or nothing more has to be tasted.
      const done = small.getByRole("heading", { name: "Your balance" });
      const ready = small.getByRole("button", { name: "just right", exact: true, disabled: false });
      // First the answer before has to be heard; then there is another glass to mix, or it is settled.
      await small.getByText(`glass ${glasses + 1}`, { exact: true }).or(done).first().waitFor();
      await ready.or(done).first().waitFor();
      if (await done.isVisible()) break;
      const { spoons, x } = await small.evaluate(async () => {
        const id = location.pathname.split("/").at(-1);
        const view = await (await fetch(`/api/tastings/${id}`)).json();
        const next = await fetch(`/api/tastings/${id}/next`, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body: JSON.stringify({ taster: view.seats[0].taster }),
        });
        const { mixed } = await next.json();
        return { spoons: mixed.spoons, x: mixed.glass.x };
      });
      assert.equal(spoons.reduce((a, b) => a + b), 24, "the three jugs fill half a cup");
      const far = 4 * (x - Math.log(22));
      const felt = far < -1.5 ? "too sour" : far < -0.5 ? "slightly sour" : far < 0.5 ? "just right" : far < 1.5 ? "slightly sweet" : "too sweet";
      await small.getByRole("button", { name: felt, exact: true }).click();
      if (glasses === 2) await accessible(small, "a glass to be mixed, on the phone");
    }
    const words = await small.getByRole("heading", { name: /^About \d+ to 1$/ }).innerText();
    const ratio = Number(words.match(/\d+/)[0]);
    assert.ok(ratio >= 19 && ratio <= 25, `${words} after ${glasses} glasses`);
    assert.ok(glasses >= 4 && glasses <= 15, `${glasses} glasses`);
    const wide = await small.evaluate(() => document.documentElement.scrollWidth);
    assert.ok(wide <= 390, `nothing runs over the edge: ${wide}`);
    // The next thing to do with it is one touch.
    await small.getByRole("button", { name: "Make a lemonade at my balance" }).click();
    await small.getByRole("heading", { name: "Lemonade for Wren" }).waitFor();
    const at = await small.locator("[data-figure=ratio]").first().innerText();
    assert.ok(Math.abs(Number(at.match(/[\d.]+/)[0]) - ratio) < 1.5, `${at}, wanted ${ratio}`);
    // It is known from now on.
    await small.goto("/tasting");
    await small.getByRole("button", { name: /^Wren/ }).getByText(/to 1/).waitFor();
    await small.context().close();
    await page.goto("/tasting");
    await page.getByRole("button", { name: /^Wren/ }).getByText(/to 1/).waitFor();
  });
});

test("tasting: a blind row, two tasters on two screens, and the key is broken", async ({ page, browser }) => {
  await page.goto("/tasting/new/row");
  // The row is seen before anything is chosen.
  await page.getByRole("img", { name: "5 glasses that look the same: sour to sweet" }).waitFor();
  await page.getByRole("radio", { name: "4", exact: true }).click();
  await page.getByRole("img", { name: /^4 glasses that look the same/ }).waitFor();
  await page.getByRole("radio", { name: "5", exact: true }).click();
  await page.getByLabel("Drink", { exact: true }).selectOption({ label: "Lemon verbena lemonade" });
  for (const name of ["The beekeeper", "The gatekeeper"])
    await page.getByRole("button", { name }).click();
  await page.getByText(/^The same in every glass/).waitFor();
  await accessible(page, "a row to be set up");
  await page.getByRole("button", { name: "Set it up" }).click();
  await page.getByRole("button", { name: "All poured" }).waitFor();
  const rows = page.getByRole("table").getByRole("row");
  await rows.nth(5).waitFor();
  const key = new Map();
  for (const row of (await rows.all()).slice(1)) {
    const cells = await row.getByRole("cell").allInnerTexts();
    key.set(cells[0], parseFloat(cells[1]));
  }
  assert.equal(key.size, 5);
  await page.getByRole("link", { name: "Print stickers and sheets" }).click();
  await page.getByRole("heading", { name: "Stickers" }).waitFor();
  await page.getByRole("link", { name: "Back to the tasting" }).click();
  await page.getByRole("button", { name: "All poured" }).click();
  await page.getByText(/The contents stay hidden/).waitFor();
  await accessible(page, "a row on the table");
  const id = page.url().split("/").at(-1);
  for (const what of ["sheet", "file"]) {
    const status = await page.evaluate(async ([id, what]) => (await fetch(`/api/tastings/${id}/${what}`)).status, [id, what]);
    assert.equal(status, 409, `the ${what} stays sealed`);
  }
  const small = await open(browser, new URL(page.url()).origin, { viewport: phone, hasTouch: true, isMobile: true });
  small.setDefaultTimeout(40_000);
  await small.goto(`/tasting/${id}`);
  await small.getByRole("radio", { name: /The gatekeeper/ }).click();
  assert.deepEqual([await ill(small, 44), await ill(page, 24)], [[], []], "a row on a phone and on a laptop");
  // Each says by what the glass is: the beekeeper likes 19 to 1, the gatekeeper 13.
  const felts = ["too sour", "slightly sour", "just right", "slightly sweet", "too sweet"];
  const answer = async (screen, code, ideal) => {
    const far = Math.log(key.get(code) / ideal) / Math.log(1.25);
    const felt = felts[Math.round(Math.min(Math.max(far, -2), 2)) + 2];
    await screen.getByRole("radiogroup", { name: `Glass ${code}: how is it` }).getByRole("radio", { name: felt }).click();
    const good = Math.round(8 - 1.6 * Math.abs(far));
    await screen.getByRole("radiogroup", { name: `Glass ${code}: how good` }).getByRole("radio", { name: String(Math.max(good, 1)), exact: true }).click();
  };
  const codes = async (screen) => {
    const groups = await screen.getByRole("radiogroup", { name: /how is it/ }).all();
    return Promise.all(groups.map(async (g) => (await g.getAttribute("aria-label")).match(/\d{3}/)[0]));
  };
  for (let nth = 0; nth < 5; nth += 1) {
    const [code] = await codes(page);
    await answer(page, code, 19);
    if (nth < 4) await page.getByRole("radiogroup", { name: `Glass ${code}: how is it` }).waitFor({ state: "detached" });
  }
  await page.getByText("The beekeeper has tasted all of them.").waitFor();
  // What is said arrives on the other screen by itself.
  for (let nth = 0; nth < 5; nth += 1) {
    const [code] = await codes(small);
    await answer(small, code, 13);
    if (nth < 4) await small.getByRole("radiogroup", { name: `Glass ${code}: how is it` }).waitFor({ state: "detached" });
    const told = nth < 4 ? `${nth + 1} of 5` : "done";
    await page.getByRole("radio", { name: new RegExp(`The gatekeeper ${told}`) }).waitFor();
  }
  await small.context().close();
  await page.getByText("Everyone has tasted.").waitFor();
  await page.getByRole("button", { name: "Reveal the glasses" }).click();
  await page.getByRole("button", { name: "Show the results and stop" }).click();
  const best = page.getByRole("region", { name: "What each taster likes best" });
  await best.waitFor();
  await accessible(page, "what a row tells");
  const told = await best.getByRole("listitem").allInnerTexts();
  const low = (text) => Number(text.match(/(\d+) to \d+ to 1/)[1]);
  assert.ok(low(told[0]) > low(told[1]), `the beekeeper likes it sweeter: ${told}`);
  await page.goto("/");
  await openDrink(page, "Lemon verbena lemonade");
  await page.getByTestId("drinkers").getByRole("img", { name: "The gatekeeper" }).waitFor();
  await page.goto(`${page.url()}/size/glass`);
  const whom = page.getByRole("region", { name: "For whom" });
  await whom.getByRole("row", { name: /The gatekeeper .* lemon juice into the glass/ }).waitFor();
});

test("tasting: a triangle to its verdict", async ({ page }) => {
  await page.goto("/tasting/new/compare");
  await page.getByLabel("The first: called").fill("This year's");
  await page.getByLabel("The second: called").fill("Last year's");
  const who = ["The beekeeper", "The gatekeeper", "The bell-ringer", "The night watering", "The youngest weeder"];
  for (const name of who) await page.getByRole("button", { name }).click();
  await page.getByText(/4 of 5 must be right/).waitFor();
  await accessible(page, "a comparison to be set up");
  await page.getByRole("button", { name: "Set it up" }).click();
  const table = page.getByRole("region", { name: "Contents" }).getByRole("row");
  await table.first().waitFor();
  const odd = new Map();
  for (const row of await table.all()) {
    const [name, ...cells] = await row.getByRole("cell").allInnerTexts();
    const glasses = cells.map((cell) => ({ code: cell.slice(0, 3), what: cell.slice(4) }));
    const alone = glasses.find((one) => glasses.filter((g) => g.what === one.what).length === 1);
    odd.set(name.trim(), alone.code);
  }
  await page.getByRole("button", { name: "All poured" }).click();
  await page.getByText("Two are the same. Touch the odd one.").waitFor();
  for (const name of who) {
    await page.getByRole("radio", { name: new RegExp(name) }).click();
    await page.getByRole("button", { name: odd.get(name), exact: true }).click();
    await page.getByRole("radio", { name: `${name} done` }).waitFor();
  }
  await page.getByRole("button", { name: "Reveal the glasses" }).click();
  await page.getByRole("button", { name: "Show the results and stop" }).click();
  await page.getByTestId("verdict").getByText("They are different", { exact: true }).waitFor();
  await page.getByText(/5 of 5 found the odd one: that happens by luck once in 240/).waitFor();
  await accessible(page, "a verdict");
});

test("tasting: one pitcher for a group, taken into Balance, and corrected in the glass", async ({ page }) => {
  await page.goto("/tasting/new/pitcher");
  await page.getByLabel("Drink", { exact: true }).selectOption({ label: "Lemon verbena lemonade" });
  for (const name of ["The beekeeper", "The gatekeeper", "The youngest weeder"])
    await page.getByRole("button", { name }).click();
  const ratio = await number(page, "pitcher-ratio");
  assert.ok(ratio > 13 && ratio < 23, `between them: ${ratio}`);
  await page.getByText(/stirs in .* lemon juice/).waitFor();
  await page.getByText(/stirs in .* sugar syrup/).first().waitFor();
  // The group on the map, and the pitcher between them.
  await page.getByRole("img", { name: /^Balance map. Lemon verbena lemonade/ }).waitFor();
  await page.getByRole("radio", { name: "Fairest to everyone" }).click();
  await page.getByRole("radio", { name: "Fairest to everyone", checked: true }).waitFor();
  await accessible(page, "one pitcher for all");
  const fair = await number(page, "pitcher-ratio");
  const settled = quiet(page);
  await page.getByRole("button", { name: "Aim at it in Balance" }).click();
  await page.getByTestId("point").waitFor();
  // What is worked out of a drink that is still being read counts no more once it is there.
  await settled();
  await page.getByRole("button", { name: "Work out the amounts" }).click();
  await page.getByRole("button", { name: /^Use these amounts/ }).first().click();
  await saved(page);
  await page.waitForFunction(
    (fair) => Math.abs(parseFloat(document.querySelector('[data-figure="ratio"]')?.innerText) - fair) < 0.8,
    fair,
  );
});

test("tasting: a tongue on the stairs, and a row put in order", async ({ page }) => {
  await page.goto("/tasting/new/train");
  await page.getByRole("button", { name: "The bell-ringer" }).click();
  await page.getByRole("button", { name: "Set it up" }).click();
  await page.getByRole("button", { name: "All poured" }).click();
  // Finds the sweeter one each time: the stairs go down.
  let taken = 0;
  for (; taken < 12; taken += 1) {
    const sheet = page.getByRole("region", { name: "For the person pouring" });
    await sheet.getByText(/of the strong jug/).waitFor();
    const line = await sheet.getByText(/of the strong jug/).innerText();
    await sheet.getByRole("button", { name: "Poured: pass it on" }).click();
    await page.getByRole("button", { name: line.slice(0, 3), exact: true }).click();
    await page.getByText(`${taken + 1} tasted`).waitFor();
  }
  await page.getByRole("button", { name: "Reveal the glasses" }).click();
  await page.getByRole("button", { name: /Reveal them now/ }).click();
  const noticed = await number(page, "notices");
  assert.ok(noticed >= 3 && noticed < 10, `finer than most: ${noticed} %`);
  await page.getByRole("button", { name: "Use this from now on" }).click();
  await page.getByRole("button", { name: "In use" }).waitFor();
  await openDrink(page, "Tamarind cooler");
  await page.getByRole("button", { name: "Taste and correct" }).click();
  await page.getByRole("combobox", { name: "For whom" }).click();
  await page.getByRole("option", { name: "The bell-ringer, by what they notice" }).click();

  await page.goto("/tasting/new/row?order");
  await page.getByLabel("Drink", { exact: true }).selectOption({ label: "Tamarind cooler" });
  await page.getByRole("button", { name: "The bell-ringer" }).click();
  await page.getByRole("button", { name: "Set it up" }).click();
  // The set-up has a table, too: the pourer's has codes.
  await page.getByRole("button", { name: "All poured" }).waitFor();
  const codes = page.getByRole("cell", { name: /^\d{3}$/ });
  await codes.nth(4).waitFor();
  const order = await codes.allInnerTexts();
  await page.getByRole("button", { name: "All poured" }).click();
  for (const code of order) {
    const glass = page.locator("[data-glass]").filter({ hasText: code });
    await glass.getByRole("button").click();
  }
  await page.getByRole("button", { name: "Confirm this order" }).click();
  await page.getByRole("button", { name: "Reveal the glasses" }).click();
  await page.getByRole("button", { name: /Show the results and stop/ }).click();
  await page.getByText("10 of 10 pairs").waitFor();
});

test("tasting: a drink is matched in rounds, and a glass is guessed", async ({ page }) => {
  await page.goto("/tasting/new/match");
  await page.getByLabel("Drink", { exact: true }).selectOption({ label: "Lemon verbena lemonade" });
  await page.getByLabel("Name").fill("The one from the fair");
  await page.getByLabel("°Brix").fill("12.5");
  await page.getByLabel("pH", { exact: true }).fill("2.6");
  await page.getByRole("button", { name: "The beekeeper" }).click();
  await accessible(page, "a drink to be matched");
  await page.getByRole("button", { name: "Start", exact: true }).click();
  const lies = page.getByRole("region", { name: "On the map" });
  const acid = lies.getByText(/% acid, likely/);
  const wide = (text) => {
    const [low, high] = text.match(/likely ([\d.]+) to ([\d.]+)/).slice(1).map(Number);
    return high / low;
  };
  const before = await acid.innerText();
  await page.getByRole("button", { name: "slightly too sour" }).click();
  await page.getByRole("button", { name: "Keep this round" }).click();
  await page.getByRole("region", { name: "Rounds" }).getByText(/the other is slightly/).waitFor();
  assert.ok(wide(await acid.innerText()) < wide(before), "tasted beside it, it is known better");
  await accessible(page, "a drink that is matched");
  await lies.getByRole("button", { name: "Aim at it in Balance" }).click();
  await page.getByRole("button", { name: "Work out the amounts" }).waitFor();

  await page.goto("/tasting/new/train");
  await page.getByRole("radio", { name: "Guess the balance" }).click();
  await page.getByRole("button", { name: "The gatekeeper" }).click();
  await page.getByRole("button", { name: "Set it up" }).click();
  await page.getByRole("button", { name: "The jugs are ready" }).click();
  await page.getByText(/tbsp|tsp|cup/).first().waitFor();
  await page.getByRole("button", { name: "Poured: pass it on" }).click();
  await page.getByRole("slider", { name: "Sugar to 1 part acid" }).press("ArrowRight");
  await page.getByText("17 to 1", { exact: true }).waitFor();
  await page.getByRole("button", { name: "Guess" }).click();
  const off = page.getByRole("img", { name: "How far off each guess was" });
  await off.waitFor();
  await page.getByRole("button", { name: "Show the answer" }).click();
  await page.getByRole("button", { name: "Guess" }).waitFor({ state: "detached" });
  await off.waitFor();
});

test("tasting: what it found is in the plan, in a closer row, and in a batch's log", async ({ page }) => {
  await page.goto("/plan");
  await page.getByRole("link", { name: /Midsummer open day/ }).click();
  const whom = page.getByRole("region", { name: "For whom" });
  await whom.getByText(/The gatekeeper .* lemon juice into the glass/).waitFor();
  // Who stays away stirs nothing in, and the plan remembers it.
  const gatekeeper = whom.getByRole("group", { name: "Who comes" }).getByRole("button", { name: "The gatekeeper" });
  await gatekeeper.click();
  await whom.getByText(/The gatekeeper .* lemon juice/).waitFor({ state: "detached" });
  await saved(page);
  await page.reload();
  await whom.getByText(/into the glass|as it is/).first().waitFor();
  assert.equal(await gatekeeper.getAttribute("aria-pressed"), "false", "who was not invited");
  await gatekeeper.click();
  await whom.getByText(/The gatekeeper .* lemon juice into the glass/).waitFor();
  await saved(page);
  await page.goto("/tasting/new/row?middle=14&step=1.15");
  await page.getByLabel("Drink", { exact: true }).selectOption({ label: "Lemon verbena lemonade" });
  await page.getByRole("radio", { name: /^what they like, \d+ to 1/, checked: true }).waitFor();
  await page.getByRole("button", { name: "The beekeeper" }).click();
  await page.getByText(/^The same in every glass/).waitFor();
  // Two steps of 1.15 either side of what was found, with room for spoons that are whole.
  const middle = Number((await page.getByRole("radio", { name: /^what they like/ }).innerText()).match(/(\d+) to 1/)[1]);
  const rows = await page.getByRole("table").getByRole("row").allInnerTexts();
  const ratios = rows.slice(1).map((row) => parseFloat(row));
  assert.ok(ratios[0] > middle * 0.68 && ratios.at(-1) < middle * 1.42, `${ratios} round ${middle}`);

  await openDrink(page, "Lemon verbena lemonade");
  await page.getByRole("navigation", { name: "Views of the drink" }).getByText("Make").click();
  await page.getByRole("region", { name: "Made" }).getByRole("link").first().click();
  const guests = page.getByRole("region", { name: "What guests said" });
  await guests.getByLabel("Who").fill("The gatekeeper");
  await guests.getByLabel("said").fill("a little sweet for me");
  await guests.getByRole("button", { name: "Save" }).click();
  await guests.getByText("The gatekeeper: “a little sweet for me”").waitFor();
  await page.reload();
  await guests.getByText("The gatekeeper: “a little sweet for me”").waitFor();
});

test("tasting: a child isn't given alcohol, and who is deleted is gone", async ({ page }) => {
  await page.goto("/tasting");
  await page.getByRole("button", { name: "Add a taster" }).click();
  await page.getByLabel("Name or nickname").fill("شخص عابر");
  await page.getByLabel("Child: no alcohol").check();
  await page.getByRole("button", { name: "Add" }).click();
  await page.getByRole("button", { name: /شخص عابر/ }).click();
  await accessible(page, "what is kept of somebody");
  await page.getByRole("button", { name: "Delete permanently" }).click();
  await page.getByRole("button", { name: "Delete شخص عابر" }).click();
  await page.getByRole("button", { name: /شخص عابر/ }).waitFor({ state: "detached" });
});
