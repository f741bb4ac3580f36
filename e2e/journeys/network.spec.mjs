// A phone on an address that its browser doesn't trust, as on every home network.
import assert from "node:assert/strict";
import { open, phone, program } from "../browser.mjs";
import { test, openDrink } from "./kitchen.mjs";

// As every phone in a home network: plain http, and no loopback address.
test.use({
  more: ["--kitchen=127.0.0.2:0", "--kitchen-name", "kitchen.home"],
  launchOptions: { ...program, args: [...program.args, "--host-resolver-rules=MAP kitchen.home 127.0.0.2"] },
});

test("a phone on the home network: every page is there, and it makes, tastes and buys", async ({ page, browser }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "Phones in the kitchen" }).click();
  const dialog = page.getByRole("dialog", { name: "Phones in the kitchen" });
  const told = await dialog.getByText(/^http:\/\/127\.0\.0\.2:/).innerText();
  const code = (await dialog.locator("[data-code]").innerText()).replace(/\s/g, "");

  const address = `http://kitchen.home:${new URL(told).port}`;
  const small = await open(browser, address, { viewport: phone });
  const troubles = [];
  small.on("pageerror", (error) => troubles.push(error.message));
  small.setDefaultTimeout(40_000);
  await small.goto("/");
  await small.getByLabel("The code").waitFor();
  assert.equal(await small.evaluate(() => isSecureContext), false);
  assert.equal(await small.evaluate(() => typeof crypto.randomUUID), "undefined");
  await small.getByLabel("The code").fill(code);
  await small.getByLabel("Name for this phone").fill("phone at the stove");
  await small.getByRole("button", { name: "Connect", exact: true }).click();
  await small.locator("[data-drink='Mint and cucumber water']").waitFor();

  // It says that a step is done, and the laptop hears of it without asking.
  await small.getByRole("region", { name: "Next" }).getByRole("link", { name: /^Lemon verbena/ }).first().click();
  await small.getByRole("button", { name: /^Done: Leave the bowl/ }).click();
  await small.getByRole("heading", { level: 2 }).getByText(/^Strain the bowl/).waitFor();
  // What happens on the laptop is there at once: the page listens for itself.
  await small.goto("/drinks");
  await page.getByRole("button", { name: "Close" }).click();
  await openDrink(page, "Tamarind cooler");
  await page.getByRole("heading", { name: "Tamarind cooler" }).getByRole("button").click();
  await page.getByLabel("Name of the drink").fill("Tamarind for the gate");
  await page.keyboard.press("Enter");
  await small.getByRole("link", { name: "Tamarind for the gate" }).first().waitFor();

  const { drinks } = await (await page.request.get("/api/drinks?limit=50")).json();
  const drink = `/drinks/${drinks.find((it) => it.name.startsWith("Hibiscus")).id}`;
  const inside = ["", "/steps", "/size", "/size/shopping", "/size/vessels", "/plan", "/make", "/history"].map((view) => drink + view);
  const places = ["/", "/drinks", "/plan", "/tasting", "/kept", "/kept/labels", "/cupboard", "/syrup", "/paste"];
  for (const path of [...places, ...inside]) {
    await small.goto(path);
    await small.getByRole("main").first().waitFor();
    assert.ok((await small.getByRole("main").first().innerText()).length > 10, `${path} is blank`);
  }
  await small.goto(`${drink}/size/shopping`);
  await small.getByRole("button", { name: /^Copy/ }).first().click();
  await small.getByText("Copied.").waitFor();
  assert.deepEqual(troubles, [], "nothing that only trusted pages have is used");
  await small.context().close();
});
