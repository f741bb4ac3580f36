// The practice kitchen, and the truth at the end.
import assert from "node:assert/strict";
import { phone } from "../browser.mjs";
import { test, accessible, onTheScale, pourToTheMark, nextStep, until, practise, finishPractice } from "./kitchen.mjs";

test("practice: a hot-steeped hibiscus is weighed, measured by drops, tasted, finished, and the truth is told", async ({ page }) => {
  await practise(page, "Hibiscus and bay-orange cooler");
  await page.getByRole("group", { name: "On the scale" }).waitFor();
  await accessible(page, "weighing");
  // A little of it is on the scale: it is asked before that is kept.
  await page.getByRole("button", { name: /^Pour about 10 g/ }).click();
  await page.getByRole("group", { name: "On the scale" }).getByText(/^on the scale (9|1\d) g, still/).waitFor();
  await page.getByRole("button", { name: "Done", exact: true }).click();
  await page.getByText(/recipe says 1.30 kg. How much did you add/).waitFor();
  await page.getByRole("button", { name: "Not done yet" }).click();
  await pourToTheMark(page);
  await nextStep(page);
  await until(page, /(Add|add) 50 g dried hibiscus/);
  // Too much is said, and spooned out again; what was really poured is what is kept.
  const scale = page.getByRole("group", { name: "On the scale" });
  await scale.getByText(/^on the scale 0 g, still/).waitFor();
  for (let i = 0; i < 12 && !(await scale.getByText("too much").isVisible()); i++)
    await onTheScale(page, scale.getByRole("button", { name: /^Pour about/ }).first());
  await scale.getByText("too much").waitFor();
  await pourToTheMark(page);
  await nextStep(page);
  await until(page, /white sugar to the pitcher/);

  // By drops, as it is said to be worth it.
  await page.getByText(/Acidity \(drop test\)/).waitFor();
  await page.getByRole("button", { name: "Measure" }).click();
  const kit = page.locator('[data-instrument="acid_kit"]');
  await kit.getByText(/wear glasses/).waitFor();
  await kit.getByRole("button", { name: "Take a sample" }).click();
  await kit.getByText(/0 drops, still clear/).waitFor();
  await accessible(page, "the instruments");
  const keep = kit.getByRole("button", { name: "Keep what the acid kit reads" });
  for (let drops = 2; drops < 120 && (await keep.isDisabled()); drops += 5) {
    await kit.getByRole("button", { name: "5 drops of lye" }).click();
    await kit.getByText(new RegExp(`^${drops + 3} drops,`)).waitFor();
  }
  const cloud = () => page.getByTestId("cloud").last().evaluate((e) => e.getBoundingClientRect().height);
  const before = await cloud();
  await keep.click();
  await page.getByText(/^You read 0\.\d\d % acid/).waitFor();
  assert.ok((await cloud()) < 0.8 * before, "the cloud is narrower");
  await until(page, /^Squeeze 2/);
  await nextStep(page);
  await page.getByRole("button", { name: "How much juice did you get?" }).click();
  await page.getByRole("button", { name: "Read the marks" }).click();
  await page.waitForFunction(() => /^\d+ ml$/.test(document.querySelector("[role=dialog] input[maxlength='60']").value));
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.getByRole("button", { name: "How much juice did you get?" }).waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Taste" }).click();
  await page.getByRole("button", { name: "Take a sip" }).click();
  const tasted = page.getByText("It tastes right.").or(page.getByRole("dialog").getByRole("button", { pressed: true }));
  await tasted.first().waitFor();
  // What sugar and acid don't answer is answered, too, and done in one touch.
  const taste = page.getByRole("dialog", { name: "Taste and correct" });
  await taste.getByRole("button", { name: "no bubbles left" }).click();
  await taste.getByText(/^Bubbles don’t come back/).waitFor();
  await taste.getByRole("button", { name: "no bubbles left" }).click();
  await taste.getByRole("button", { name: "flat", exact: true }).click();
  await accessible(page, "what helps against flat");
  await taste.getByRole("button", { name: /^Do this: Stir in .* salt/ }).click();
  await taste.waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Log" }).click();
  await page.getByText(/^Added .* salt to the/).waitFor();
  await page.getByText(/^Tasted the .*: flat/).waitFor();
  await page.getByRole("button", { name: "Close the list" }).click();
  await finishPractice(page);
  await accessible(page, "the truth");
});

test("practice: a lemonade on the phone, a silly reading, too sour, put right by what is offered", async ({ page }) => {
  await page.setViewportSize(phone);
  await practise(page, "Lemon verbena lemonade");
  await until(page, /^Squeeze 6 lemons/);
  await nextStep(page);
  // Far too little came out: what is ahead follows.
  await page.getByRole("button", { name: "How much juice did you get?" }).click();
  await page.getByLabel("How much").fill("120 ml");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  const on = page.getByRole("region", { name: "Suggestions" });
  await on.getByText(/less sour.* than planned/).waitFor();
  await on.getByRole("button", { name: "Do this" }).first().waitFor();
  await accessible(page, "ways to go on");
  await page.getByRole("button", { name: "Log" }).click();
  await page.getByRole("button", { name: /^Undo: Got 120 ml/ }).click();
  await on.waitFor({ state: "detached" });
  await page.getByRole("button", { name: "Close the list" }).click();
  await until(page, /^Top up the pitcher/);
  await nextStep(page);

  await page.getByRole("button", { name: "Measure" }).click();
  const dialog = page.getByRole("dialog", { name: "Measure" });
  await dialog.getByRole("combobox", { name: "What", exact: true }).click();
  await page.getByRole("option", { name: "°Brix" }).click();
  await dialog.getByRole("textbox", { name: "Reading" }).fill("41");
  await dialog.getByRole("button", { name: "Save the reading" }).click();
  await page.getByText(/You read 41(\.0)? °Bx/).waitFor();
  await page.getByRole("button", { name: "Discard it" }).click();

  // The tongue says so, and spoons put it right.
  await page.getByRole("button", { name: "Taste" }).click();
  await page.getByRole("button", { name: "clearly not sweet enough" }).click();
  await page.getByRole("list", { name: "Suggestions" }).getByRole("button", { name: "Do this" }).first().click();
  await page.getByRole("button", { name: "Log" }).click();
  await page.getByText(/^Tasted the pitcher: clearly not sweet enough/).waitFor();
  await page.getByText(/^Added .*(sugar|syrup).* to the pitcher/).first().waitFor();
  await page.getByRole("button", { name: "Close the list" }).click();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  assert.ok(wide <= phone.width, `${wide} px wide`);
  await finishPractice(page);
});
