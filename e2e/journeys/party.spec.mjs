// A whole party: planned on the laptop, made by two phones on an address that their browsers don't trust.
import assert from "node:assert/strict";
import { open, phone, program } from "../browser.mjs";
import { quiet, test } from "./kitchen.mjs";

test.use({
  more: ["--kitchen=127.0.0.2:0", "--kitchen-name", "kitchen.home"],
  launchOptions: { ...program, args: [...program.args, "--host-resolver-rules=MAP kitchen.home 127.0.0.2"] },
});

const DRINKS = ["Lemon verbena lemonade", "Hibiscus and bay-orange cooler", "Mandarin fizz"];

/** Goes on until something is so: done, started, or a wait that is ended by hand. */
async function goOn(page, isThere) {
  const step = page.getByRole("heading", { level: 2 }).first();
  for (let left = 30; left > 0 && !(await isThere()); left -= 1) {
    const now = await step.innerText();
    const next = page.getByRole("button", { name: /^(Done|Started)$/ });
    if (await next.isVisible()) await next.click();
    else await page.getByRole("list", { name: "Waits" }).getByRole("button", { name: /^Done/ }).first().click();
    await page.waitForFunction((was) => document.querySelector("h2").innerText !== was, now);
  }
}

const upTo = (page, sentence) =>
  goOn(page, async () => sentence.test(await page.getByRole("heading", { level: 2 }).first().innerText()));

async function finish(page) {
  const done = page.getByRole("button", { name: "Finish", exact: true });
  await goOn(page, () => done.isVisible());
  await done.click();
  const dialog = page.getByRole("dialog", { name: "Finish" });
  await dialog.getByRole("button", { name: "Finish the batch" }).click();
  await page.getByRole("heading", { level: 2 }).getByText("Finished.").waitFor();
}

test("a party of three drinks, one cook and one burner, made by two phones", async ({ page, browser }) => {
  const { drinks } = await (await page.request.get("/api/drinks?limit=50")).json();
  const tomorrow = new Date(Date.now() + 36 * 3600_000).toISOString().slice(0, 10);
  const plan = {
    name: "Three for the gate",
    serving: `${tomorrow}T15:00`,
    drinks: DRINKS.map((name, i) => ({ id: `d${i}`, drink: drinks.find((d) => d.name === name).id })),
    means: { cooks: 1, rings: 1 },
  };
  const made = await page.request.post("/api/plans", { data: plan });
  assert.equal(made.status(), 201, await made.text());
  const { id } = await made.json();

  // Planned, with one pair of hands on one burner; and on paper, with its amounts.
  await page.goto(`/plan/${id}`);
  await page.locator("[data-told]").getByText(/^Start /).waitFor();
  await page.getByRole("button", { name: /1 cook/ }).waitFor();
  await page.emulateMedia({ media: "print" });
  const paper = await page.evaluate(() => document.body.innerText);
  for (const amount of [/190 g white sugar/, /50 g dried hibiscus/]) assert.match(paper, amount);
  await page.emulateMedia({ media: "screen" });

  // Two phones come in.
  await page.getByRole("button", { name: "Phones in the kitchen" }).click();
  const dialog = page.getByRole("dialog", { name: "Phones in the kitchen" });
  const told = await dialog.getByText(/^http:\/\/127\.0\.0\.2:/).innerText();
  const address = `http://kitchen.home:${new URL(told).port}`;
  const troubles = [];
  const enter = async (name) => {
    const small = await open(browser, address, { viewport: phone });
    small.setDefaultTimeout(40_000);
    small.on("pageerror", (error) => troubles.push(error.message));
    await small.goto("/");
    // A code lets one phone in; then there is another.
    const code = (await dialog.locator("[data-code]").innerText()).replace(/\s/g, "");
    await small.getByLabel("The code").fill(code);
    await small.getByLabel("Name for this phone").fill(name);
    await small.getByRole("button", { name: "Connect", exact: true }).click();
    await small.locator("[data-drink]").first().waitFor();
    assert.equal(await small.evaluate(() => isSecureContext), false);
    await dialog.getByText(name).waitFor();
    return small;
  };
  const one = await enter("phone at the stove");
  const two = await enter("phone at the table");
  const make = async (small, name) => {
    await small.goto(`/plan/${id}`);
    await small.getByRole("region", { name: "Making it" }).getByRole("button", { name: `Make ${name}` }).click();
    await small.getByRole("heading", { level: 1, name }).waitFor();
  };

  // The lemonade, with a mistake: too much sugar went in, and it isn't asked for again.
  await make(one, DRINKS[0]);
  await upTo(one, /white sugar/);
  await one.getByRole("button", { name: "Something went differently" }).click();
  const otherwise = one.getByRole("dialog", { name: "Something went differently" });
  await otherwise.getByRole("button", { name: "Too much" }).click();
  for (const key of ["6", "0"]) await otherwise.getByRole("button", { name: key, exact: true }).click();
  await otherwise.getByText("250 g in all").waitFor();
  await otherwise.getByRole("button", { name: "Save", exact: true }).click();
  await one.getByRole("heading", { level: 2 }).getByText(/white sugar/).waitFor({ state: "detached" });

  // Meanwhile the other phone makes the hibiscus; both see both.
  await make(two, DRINKS[1]);
  await two.goto("/");
  const going = two.getByRole("region", { name: "Next" });
  await going.getByRole("link", { name: /^Lemon verbena lemonade/ }).first().waitFor();
  await going.getByRole("link", { name: /^Hibiscus/ }).filter({ hasNotText: "practice" }).click();

  // The lemonade is tasted when it is mixed, and corrected.
  await upTo(one, /^Top up the pitcher/);
  await one.getByRole("button", { name: "Done", exact: true }).click();
  // What comes after the step moves the buttons.
  await quiet(one)();
  await one.getByRole("button", { name: "Taste" }).click();
  await one.getByRole("button", { name: /clearly too sweet/ }).click();
  await one.getByRole("list", { name: "Suggestions" }).getByRole("button", { name: "Do this" }).first().click();
  await one.getByRole("button", { name: "Log" }).click();
  await one.getByText(/^Added .* to the pitcher/).first().waitFor();
  await one.getByRole("button", { name: "Close the list" }).click();
  // The plan follows: what was done is done, what is finished is said so.
  await page.getByRole("button", { name: "Close" }).click();
  await page.locator("[data-told]").getByText(/^Next at /).waitFor();
  await page.getByRole("button", { name: /Lemon verbena lemonade: .*, done$/ }).first().waitFor();
  await finish(one);
  await finish(two);
  await page.getByRole("region", { name: "Making it" }).getByText(`${DRINKS[1]}: finished`).waitFor();

  await make(one, DRINKS[2]);
  await finish(one);
  await page.goto("/");
  await page.getByRole("region", { name: "Next" }).getByRole("link", { name: /^Hibiscus/ }).filter({ hasNotText: "practice" }).waitFor({ state: "detached" });
  assert.deepEqual(troubles, [], "nothing that only trusted pages have is used");
  await one.context().close();
  await two.context().close();
});
