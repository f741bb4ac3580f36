// What all journeys share: a server and a shelf of their own, and what a maker does again and again.
//
// LATE=400 lets each question wait up to so many ms, in an order that no cook and no test counted on;
// LATE_SEED=5 deals another order.
import AxeBuilder from "@axe-core/playwright";
import { test as plain } from "@playwright/test";
import assert from "node:assert/strict";
import { rm } from "node:fs/promises";
import { demoShelf, serveDemo } from "../browser.mjs";

/** A refused change is an answer that the browser logs as well. */
const REFUSED = /status of (401|403|409|422|507)|ERR_CONNECTION_(REFUSED|RESET)|ERR_INCOMPLETE_CHUNKED/;

/** A generator that deals the same numbers each time (a linear congruence, by Numerical Recipes). */
function dealer(seed) {
  let state = seed >>> 0;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

/** Lets what a page asks go out late, and some of it before what was asked earlier; what it says goes at once. */
async function late(context, most) {
  const deal = dealer(Number(process.env.LATE_SEED ?? 1));
  await context.route("**/api/**", async (route) => {
    const request = route.request();
    const asks = request.method() === "GET" || request.url().includes("/compute/");
    if (asks) await new Promise((over) => setTimeout(over, deal() * most));
    // A page that has been left asks nothing more.
    await route.continue().catch(() => {});
  });
}

/** Each journey has a server and a shelf of its own, so that none rests on what another left. */
export const test = plain.extend({
  /** "demo", or "serve" for an empty shelf. */
  command: ["demo", { option: true }],
  /** What the server is told besides. */
  more: [[], { option: true }],
  /** What the demo has, worked out once for all that one worker walks. */
  shelf: [
    async ({}, use) => {
      const shelf = await demoShelf(process.env.KEEN_PITCHER);
      await use(shelf);
      await rm(shelf, { recursive: true });
    },
    { scope: "worker" },
  ],
  demo: async ({ command, more, shelf }, use) => {
    const demo = await serveDemo(process.env.KEEN_PITCHER, more, command, shelf);
    await use(demo);
    await demo.close();
  },
  baseURL: async ({ demo }, use) => use(demo.address),
  /** The page must have nothing to complain of when the journey is over. */
  page: async ({ page }, use) => {
    if (process.env.LATE) await late(page.context(), Number(process.env.LATE));
    const troubles = [];
    page.on("pageerror", (error) => troubles.push(error.message));
    page.on("console", (message) => {
      if (message.type() === "error" && !REFUSED.test(message.text())) troubles.push(message.text());
    });
    quiet(page);
    await use(page);
    assert.deepEqual(troubles, [], "the page's console is clean");
  },
});

export const figure = (page, name) => page.locator(`[data-figure="${name}"]`);
export const amount = (page, of) =>
  page.getByRole("spinbutton", { name: `Amount of ${of}`, exact: true }).first();

/** Waits until what was typed is kept: "saved" may still be said from before. */
export async function saved(page) {
  await quiet(page)();
  await page.getByText("saved", { exact: true }).waitFor();
}

const listened = new WeakMap();

/** Waits until nothing has been asked of the server for a moment. */
export function quiet(page) {
  if (!listened.has(page)) listened.set(page, listen(page));
  return listened.get(page);
}

function listen(page) {
  let underway = 0;
  let last = Date.now();
  const counts = (by) => (request) => {
    if (!request.url().includes("/api/") || request.url().endsWith("/api/changes")) return;
    underway += by;
    last = Date.now();
  };
  page.on("request", counts(1));
  page.on("requestfinished", counts(-1));
  page.on("requestfailed", counts(-1));
  return async () => {
    last = Date.now();
    while (underway > 0 || Date.now() - last < 120) await page.waitForTimeout(30);
  };
}

/** The number that a figure shows. */
export async function number(page, name) {
  return parseFloat(await figure(page, name).innerText());
}

/** Waits until a figure shows another number than before, and returns it. */
export async function changed(page, name, before) {
  await page.waitForFunction(
    ([name, before]) => {
      const shown = document.querySelector(`[data-figure="${name}"]`);
      return shown && parseFloat(shown.innerText) !== before;
    },
    [name, before],
  );
  return number(page, name);
}

export async function openDrink(page, name) {
  await page.goto("/");
  await page.locator("[data-drink]").getByRole("link", { name }).first().click();
  await page.getByTestId("point").waitFor();
}

/** No fault that an automatic scan can find. */
export async function accessible(page, where) {
  // No page has frames, and what is well needs no telling: half the time that a scan takes otherwise.
  const scan = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ["violations"] });
  const { violations } = await scan.analyze();
  const told = violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target).join(", ")}`);
  assert.deepEqual(told, [], `accessibility of ${where}`);
}

/**
 * What is wider than the screen, and the controls that are too small: less than 44 px each way for a finger, 24 px for
 * a mouse. In a plan a block is as long as its time; a finger hits the room around it too.
 */
export async function ill(page, least) {
  return page.evaluate((least) => {
    const wide = document.documentElement.scrollWidth - innerWidth;
    const controls =
      "button, a[href], [role=button], [role=combobox], [role=radio], [role=spinbutton], input, select, [role=slider]";
    const small = [...document.querySelectorAll(controls)].flatMap((control) => {
      // The whole field takes the touch, and the whole track of a slider.
      if (control.closest(".MuiSlider-thumb") || control.closest("[data-plan-block]")) return [];
      const inside = control.closest(".MuiAutocomplete-endAdornment");
      const field = (!inside && control.closest(".MuiInputBase-root, label")) || control;
      const { width, height } = field.getBoundingClientRect();
      if (getComputedStyle(control).visibility === "hidden" || width <= 1 || height <= 1) return [];
      const fits = Math.round(width) >= least && Math.round(height) >= least;
      const name = (control.getAttribute("aria-label") ?? control.textContent ?? "").trim();
      return fits ? [] : [`${name.slice(0, 40)}: ${Math.round(width)} x ${Math.round(height)} px`];
    });
    return [...(wide > 0 ? [`${wide} px too wide`] : []), ...new Set(small)];
  }, least);
}

/** The steps by their numbers, each by its id or as it is told above its vessel. */
export async function inOrder(page, by) {
  return page.locator("[data-step]").evaluateAll((all, by) => {
    const number = (step) => parseInt(step.getAttribute("aria-label"), 10);
    return all
      .sort((a, b) => number(a) - number(b))
      .map((step) => (by === "id" ? step.dataset.step : step.textContent.replace(/^\d+/, "")));
  }, by);
}

/** How steps are composed: the palette, a choice, an ingredient from the cupboard, a typed field. */
export function composing(page) {
  const palette = page.getByRole("region", { name: "Add a step" });
  const choose = async (label, option) => {
    await page.getByRole("combobox", { name: label, exact: true }).click();
    await page.getByRole("option", { name: option, exact: true }).click();
  };
  const putIn = async (typed, into) => {
    await palette.getByRole("button", { name: "Add an ingredient" }).click();
    await page.getByLabel("Ingredient, with or without its amount").fill(typed);
    if (into) await choose("into", into);
    await page.getByText("Searching …").waitFor({ state: "detached" });
    await page.getByLabel("Ingredient, with or without its amount").press("Enter");
    await page.getByRole("region", { name: /^Step/ }).waitFor();
  };
  const type = async (label, text) => {
    await page.getByRole("textbox", { name: label, exact: true }).fill(text);
    await page.getByRole("textbox", { name: label, exact: true }).press("Enter");
  };
  return { palette, choose, putIn, type };
}

/** One touch of a button beside the practice kitchen's scale, until the scale shows something else. */
export async function onTheScale(page, button) {
  const before = await page.getByRole("group", { name: "On the scale" }).innerText();
  // The scale may have settled elsewhere in between, and the button be gone; or it shows what it showed before.
  await button.click({ timeout: 2_000 }).catch(() => undefined);
  await page
    .waitForFunction(
      (was) => document.querySelector('[aria-label="On the scale"]').innerText !== was,
      before,
      { timeout: 2_000 },
    )
    .catch(() => undefined);
}

/** Pours on the practice kitchen's scale until it is there, by the buttons that are offered. */
export async function pourToTheMark(page) {
  const scale = page.getByRole("group", { name: "On the scale" });
  for (let i = 0; i < 60; i++) {
    await scale.getByText(/, still$/).waitFor();
    if (await scale.getByText("there it is").isVisible()) return;
    const out = scale.getByRole("button", { name: "Take some out" });
    await onTheScale(page, (await out.isVisible()) ? out : scale.getByRole("button", { name: /^Pour about/ }).first());
  }
  assert.fail(`it never got to the mark: ${await scale.innerText()}`);
}

/** Says done, or that it has begun, and waits for the next step. */
export async function nextStep(page) {
  const step = page.locator("h2[data-step]");
  const now = await step.getAttribute("data-step");
  if (now) await page.getByRole("button", { name: /^(Done|Started)$/ }).click();
  else {
    await page.getByRole("button", { name: "Skip this wait" }).click();
    await page.getByRole("list", { name: "Waits" }).getByText("over", { exact: true }).first().waitFor();
    await page.getByRole("button", { name: /^Done: / }).first().click();
  }
  await page.waitForFunction((was) => document.querySelector("h2[data-step]").dataset.step !== was, now);
}

/** Goes on, step by step, until one is there. */
export async function until(page, sentence) {
  const step = page.locator("h2[data-step]");
  for (let i = 0; i < 30 && !sentence.test(await step.innerText()); i++) await nextStep(page);
  assert.match(await step.innerText(), sentence);
}

export async function practise(page, name) {
  await openDrink(page, name);
  await page.getByRole("navigation", { name: "Views of the drink" }).getByText("Make").click();
  await page.getByRole("button", { name: "Practise" }).click();
  await page.getByText(/practice · 1 of/).waitFor();
}

/** Ends a practice run, and reads the truth. */
export async function finishPractice(page) {
  await until(page, /^All steps are done/);
  await page.getByRole("button", { name: "Finish", exact: true }).click();
  await page.getByLabel("How many").fill("two");
  await page.getByRole("button", { name: "Finish the batch" }).click();
  await page.getByText("Enter a whole number, or leave this empty.").waitFor();
  await page.getByLabel("How many").fill("2");
  await page.getByRole("button", { name: "Finish the batch" }).click();
  const truth = page.getByRole("region", { name: "How it really was" });
  await truth.getByText(/^It landed \d+\.\d noticeable steps/).waitFor();
  await truth.getByText(/Best thing to measure/).waitFor();
  await page.getByText(/^2 bottles/).waitFor();
  const really = await page.getByRole("row", { name: /^acidity/ }).getByRole("cell").last().innerText();
  assert.match(really, /^0\.\d\d$/, "how sharp it really is");
  assert.equal(await page.getByRole("button", { name: "Save to your kitchen" }).count(), 0, "practice teaches nothing");
}
