// On a phone: fingers, darkness, and being let in.
import assert from "node:assert/strict";
import { open, phone } from "../browser.mjs";
import { test, openDrink, accessible } from "./kitchen.mjs";

test("every control on a phone is as large as a finger", async ({ page }) => {
  await page.setViewportSize(phone);
  const { drinks } = await (await page.request.get("/api/drinks?limit=50")).json();
  const id = drinks.find((drink) => drink.name.startsWith("Hibiscus")).id;
  const drink = `/drinks/${id}`;
  const cupboard = ["/cupboard", "/cupboard/produce", "/cupboard/vessels", "/cupboard/measuring", "/cupboard/water"];
  for (const path of ["/", drink, `${drink}/steps`, `${drink}/size`, ...cupboard, "/syrup", "/make-from"]) {
    await page.goto(path);
    await page.getByRole("main").waitFor();
    await page.waitForLoadState("networkidle");
    const small = await page.evaluate(() => {
      const controls = "button, [role=button], [role=combobox], input, [role=slider]";
      return [...document.querySelectorAll(controls)].flatMap((control) => {
        const field = control.closest(".MuiInputBase-root, label") ?? control;
        const { width, height } = field.getBoundingClientRect();
        const shown = getComputedStyle(control).visibility !== "hidden" && width > 0;
        const name = control.getAttribute("aria-label") ?? control.textContent ?? "";
        return shown && Math.round(height) < 44 ? [`${name.trim()}: ${Math.round(height)} px`] : [];
      });
    });
    assert.deepEqual(small, [], `on ${path}`);
  }
});

test("on a phone and in the dark, with nothing wider than the screen", async ({ page }) => {
  await page.setViewportSize(phone);
  await page.emulateMedia({ colorScheme: "dark", reducedMotion: "reduce" });
  for (const drink of ["Lemon verbena lemonade", "Hibiscus and bay-orange cooler"]) {
    await page.goto("/");
    await page.locator("[data-drink]").getByRole("link", { name: drink }).waitFor();
    await page.getByRole("region", { name: "Next" }).waitFor();
    await accessible(page, "the shelf on a phone in the dark");
    await openDrink(page, drink);
    await accessible(page, `${drink} on a phone in the dark`);
    await page.getByRole("link", { name: "Steps" }).click();
    await page.getByRole("region", { name: "Add a step" }).waitFor();
    await accessible(page, `the steps of ${drink} on a phone in the dark`);
    await page.getByRole("link", { name: "Size", exact: true }).click();
    await page.getByRole("link", { name: "Shopping" }).click();
    await page.getByRole("checkbox").first().waitFor();
    await accessible(page, `the shopping for ${drink} on a phone in the dark`);
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    assert.ok(wide <= phone.width, `${wide} px wide`);
  }
});

test.describe("with the second door open", () => {
  test.use({ more: ["--kitchen=127.0.0.2:0"] });

  test("a phone is let in by its code, follows, and is put out", async ({ page, demo, browser }) => {
    await page.goto("/");
    await page.getByRole("button", { name: "Phones in the kitchen" }).click();
    const dialog = page.getByRole("dialog", { name: "Phones in the kitchen" });
    const address = await dialog.getByText(/^http:\/\/127\.0\.0\.2:/).innerText();
    await dialog.getByRole("img", { name: /Address and code/ }).waitFor();
    await accessible(page, "phones");
    const code = (await dialog.locator("[data-code]").innerText()).replace(/\s/g, "");

    const other = await open(browser, address, { viewport: phone });
    other.setDefaultTimeout(40_000);
    await other.goto("/");
    await other.getByLabel("The code").fill(code === "111111" ? "222222" : "111111");
    await other.getByRole("button", { name: "Connect", exact: true }).click();
    await other.getByText(/isn't the right code/).waitFor();
    await accessible(other, "joining");
    await other.getByLabel("The code").fill(code);
    await other.getByLabel("Name for this phone").fill("phone at the stove");
    await other.getByRole("button", { name: "Connect", exact: true }).click();
    await other.locator("[data-drink='Mint and cucumber water']").waitFor();
    await dialog.getByText("phone at the stove").waitFor();

    // It makes with us.
    await other.getByRole("region", { name: "Next" }).getByRole("link", { name: /^Lemon verbena/ }).first().click();
    await other.getByRole("button", { name: /^Done: Leave the bowl/ }).click();
    await other.getByRole("heading", { level: 2 }).getByText(/^Strain the bowl/).waitFor();
    await dialog.getByRole("button", { name: "Disconnect: phone at the stove" }).click();
    await dialog.getByText("No phone is connected yet.").waitFor();
    await other.getByRole("button", { name: "Done", exact: true }).click();
    await other.getByLabel("The code").waitFor();
    await other.context().close();
    await dialog.getByRole("button", { name: "Disconnect all" }).click();
    await dialog.getByRole("button", { name: "Connect phones" }).waitFor();
    void demo;
  });
});
