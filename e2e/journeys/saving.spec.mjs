// Everything is saved by itself, whatever the server does.
import { expect } from "@playwright/test";
import assert from "node:assert/strict";
import { test, amount, saved, openDrink, accessible } from "./kitchen.mjs";

test("saved by itself: there again after a reload", async ({ page }) => {
  await openDrink(page, "Tamarind cooler");
  await page.getByRole("heading", { name: "Tamarind cooler" }).getByRole("button").click();
  await page.getByLabel("Name of the drink").fill("Tamarind cooler 🌶 für morgen");
  await page.keyboard.press("Enter");
  await amount(page, "Tamarind pulp").focus();
  await page.keyboard.press("ArrowUp");
  await page.getByText("115 g").first().waitFor();
  // Left at once, before the pause after which it is saved.
  await page.reload();
  await page.getByRole("heading", { name: "Tamarind cooler 🌶 für morgen" }).waitFor();
  await expect(amount(page, "Tamarind pulp")).toHaveText("115 g");
});

test("two windows: neither loses its change", async ({ page }) => {
  await openDrink(page, "Creamy whole-lime cooler");
  const other = await page.context().newPage();
  await other.goto(page.url());
  await amount(other, "Sweetened condensed milk").focus();
  await other.keyboard.press("ArrowUp");
  await other.getByText("230 g").first().waitFor();
  await saved(other);
  // This window learns of it at once, and can undo it.
  await page.getByText("230 g").first().waitFor();
  await saved(page);
  // Both change it at the same moment: this window's save is held up on the way.
  let letGo;
  const heldUp = new Promise((resolve) => (letGo = resolve));
  await page.route("**/api/drinks/*", async (route) => {
    if (route.request().method() === "PUT") await heldUp;
    await route.continue();
  });
  await amount(page, "Whole lime with skin").focus();
  const sent = page.waitForRequest((request) => request.method() === "PUT");
  await page.keyboard.press("ArrowUp");
  await sent;
  await amount(other, "Sweetened condensed milk").focus();
  await other.keyboard.press("ArrowUp");
  await other.getByText("240 g").first().waitFor();
  await saved(other);
  letGo();
  await page.getByText("You changed this drink in another window too").waitFor();
  await page.unroute("**/api/drinks/*");
  await accessible(page, "a conflict");
  await page.getByRole("button", { name: "Keep both" }).click();
  await page.getByRole("heading", { name: "Creamy whole-lime cooler, mine" }).waitFor();
  await page.getByTestId("point").waitFor();
  await expect(amount(page, "Whole lime with skin")).toHaveText("4 1/2 limes");
  await openDrink(page, "Creamy whole-lime cooler");
  await page.goto(other.url());
  await page.getByTestId("point").waitFor();
  await expect(amount(page, "Sweetened condensed milk")).toHaveText("240 g");
  await expect(amount(page, "Whole lime with skin")).toHaveText("4 limes");
  await other.close();
});

test("the server away, slow and refusing: it is said, and nothing is lost", async ({ page }) => {
  await openDrink(page, "Mint and cucumber water");
  const [, id] = page.url().match(/drinks\/([^/]+)/);
  const kept = async () => (await (await page.request.get(`/api/drinks/${id}`)).json()).drink;
  const set = async (text) => {
    await amount(page, "White sugar").click();
    await page.getByRole("textbox", { name: "Amount of White sugar" }).fill(text);
    await page.keyboard.press("Enter");
  };
  const isKept = (text) =>
    expect
      .poll(async () => JSON.stringify(await kept()), { message: `${text} isn't kept`, timeout: 20_000 })
      .toContain(`"${text}"`);

  // Away: a change stays in this browser, and goes to the shelf when the server is back.
  await page.route("**/api/**", (route) => route.abort("connectionrefused"));
  await amount(page, "White sugar").press("ArrowUp");
  await page.getByText("not saved yet").waitFor();
  await isKept("40 g");
  // What must be read by the server stays as it was typed, and says why it isn't taken.
  await set("11 g");
  await page.getByText("Keen Pitcher isn't answering. Is it still running?").first().waitFor();
  assert.equal(await page.getByRole("textbox", { name: "Amount of White sugar" }).inputValue(), "11 g");
  // Closed and opened again, the change is still there.
  await page.unroute("**/api/**");
  await page.reload();
  await page.getByTestId("point").waitFor();
  const nudged = await amount(page, "White sugar").innerText();
  assert.notEqual(nudged, "40 g");
  await isKept(nudged);

  // Slow: an answer to the older question never replaces the newer edit.
  let answer;
  const until = new Promise((now) => (answer = now));
  let asked = 0;
  let answered;
  await page.route("**/api/compute/**", async (route) => {
    if (asked++ > 0) return route.continue();
    await until;
    // Who asked may have given it up by then.
    answered = route.continue().catch(() => {});
    await answered;
  });
  await amount(page, "White sugar").press("ArrowUp");
  await expect.poll(() => asked).toBeGreaterThan(0);
  await set("13 g");
  await isKept("13 g");
  answer();
  await expect.poll(() => answered !== undefined).toBe(true);
  await answered;
  // The newer question goes out once the older one is answered; what it says stays.
  await expect(amount(page, "White sugar")).toHaveText("13 g");
  await isKept("13 g");
  await page.unroute("**/api/compute/**");

  // Refusing: what the shelf says stands there, and "saved" doesn't.
  const detail = "There is no room left on the disk. Make some, and it is saved by itself.";
  const body = JSON.stringify({ type: "disk-full", title: "The disk is full", status: 507, detail });
  await page.route(`**/api/drinks/${id}`, (route) =>
    route.request().method() === "PUT"
      ? route.fulfill({ status: 507, contentType: "application/problem+json", body })
      : route.continue(),
  );
  await set("14 g");
  await page.getByText("There is no room left on the disk").first().waitFor();
  assert.equal(await page.getByText("saved", { exact: true }).isVisible(), false);
  await page.unroute(`**/api/drinks/${id}`);
  await isKept("14 g");
  await saved(page);
  await set("30 g");
  await isKept("30 g");
});
