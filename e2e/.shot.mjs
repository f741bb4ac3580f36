import { launch, open, phone, desk, serveDemo } from "./browser.mjs";
const demo = await serveDemo(process.argv[2]);
const browser = await launch();
const page = await open(browser, demo.address, { viewport: phone });
page.on("console", (m) => m.type() === "error" && console.log("console", m.text()));
page.setDefaultTimeout(8000);
let n = 0;
const shot = (name) => page.screenshot({ path: `/tmp/shots/p-${name}.png` });
const wanted = new Set(process.argv.slice(3));
try {
  await page.goto("/");
  await page.locator("[data-drink=\"Hibiscus and bay-orange cooler\"] a").click();
  await page.getByTestId("point").waitFor();
  await page.goto(page.url() + "/make");
  await page.getByRole("button", { name: "Practise it" }).click();
  await page.getByRole("button", { name: "What happened" }).waitFor();
  for (let i = 0; i < 60; i++) {
    const h = await page.getByRole("heading", { level: 2 }).first().innerText();
    console.log(i, h, (await page.getByRole("region", {name: "How to go on"}).count()) ? await page.getByRole("region", {name: "How to go on"}).innerText() : "");
    if (wanted.has(String(i))) await shot(i);
    if (h === "It is made.") break;
    if (h === "All is done.") {
      await page.getByRole("button", { name: "Finish" }).click();
      await page.getByLabel("Where it stands now").fill("refrigerator door");
      await page.getByLabel("How many bottles or jars").fill("2");
      if (wanted.has("finish")) await shot("finish");
      await page.getByRole("button", { name: "It is made" }).click();
      await page.getByRole("heading", { name: "It is made." }).waitFor();
      continue;
    }
    const juice = page.getByRole("button", { name: "How much juice was it?" });
    if (await juice.isVisible()) {
      await juice.click();
      await page.getByRole("button", { name: "Read the marks" }).click();
      await page.waitForTimeout(400);
      if (wanted.has("juice")) await shot("juice");
      await page.getByRole("button", { name: "So it was" }).click();
      await page.waitForTimeout(500);
      continue;
    }
    if (h.startsWith("Put 170 g white sugar")) {
      await page.getByRole("button", { name: "Measure" }).click();
      await page.locator("[data-instrument=acid_kit]").waitFor();
      await page.getByRole("button", { name: "Take a sample" }).click();
      for (let k = 0; k < 12; k++) { await page.getByRole("button", { name: "5 drops of lye" }).click(); await page.waitForTimeout(150); if (!(await page.getByRole("button", { name: "Keep what the acid kit reads" }).isDisabled())) break; }
      await page.getByRole("button", { name: "A drop on it" }).click();
      await page.waitForTimeout(500);
      if (wanted.has("measure")) await shot("measure");
      await page.getByRole("button", { name: "Keep what the acid kit reads" }).click();
      await page.waitForTimeout(800);
      if (wanted.has("after")) await shot("after");
      const b = page.getByRole("button", { name: "Believe it" }); if (await b.isVisible()) await b.click();
    }
    const pour = page.getByRole("button", { name: /^Pour about/ }).first();
    if (await pour.isVisible()) { for (let k = 0; k < 6 && await pour.isVisible(); k++) { await pour.click(); await page.waitForTimeout(1400);} if (wanted.has("poured" + i)) await shot("poured" + i); }
    const b = page.getByRole("button", { name: /^(Done|It has begun)$/ });
    if (await b.isVisible()) await b.click();
    else { await page.getByRole("button", { name: "To the end of the wait" }).click(); await page.waitForTimeout(500); await page.getByRole("button", { name: /^Done: / }).first().click(); }
    await page.waitForTimeout(600);
  }
} catch (e) { console.log(String(e)); await shot("fail"); }
await page.screenshot({ path: `/tmp/shots/p-end.png`, fullPage: true });
await browser.close();
await demo.close();
