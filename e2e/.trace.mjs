import { launch, open } from "./browser.mjs";
const browser = await launch();
const page = await open(browser, process.argv[2], { reducedMotion: "no-preference" });
await page.goto("/");
await page.getByRole("link", { name: "Lemon verbena lemonade" }).click();
await page.getByTestId("point").waitFor();
await page.waitForTimeout(500);
const cdp = await page.context().newCDPSession(page);
const events=[]; cdp.on("Tracing.dataCollected", e=>events.push(...e.value));
await cdp.send("Tracing.start",{categories:"devtools.timeline,disabled-by-default-devtools.timeline,v8.execute,blink.user_timing",transferMode:"ReportEvents"});
const sugar = page.getByRole("spinbutton", { name: "Amount of White sugar" });
const box = await sugar.boundingBox(); const y = box.y + box.height / 2;
await page.mouse.move(box.x + box.width - 10, y); await page.mouse.down();
for (let i=1;i<=60;i++){ await page.mouse.move(box.x+box.width-10+7*(i<=30?i:60-i), y); await page.waitForTimeout(60);} 
await page.mouse.up();
const done=new Promise(r=>cdp.on("Tracing.tracingComplete",r)); await cdp.send("Tracing.end"); await done;
const sum={}; for(const e of events){ if(e.ph==="X"&&e.dur){ (sum[e.name]??={n:0,d:0}); sum[e.name].n++; sum[e.name].d+=e.dur; } }
for(const [k,v] of Object.entries(sum).sort((a,b)=>b[1].d-a[1].d).slice(0,25)) console.log(k.padEnd(32), v.n, (v.d/1000/60).toFixed(2)+" ms/move");
await browser.close();
