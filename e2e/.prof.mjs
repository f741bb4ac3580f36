import { launch, open } from "./browser.mjs";
const browser = await launch();
const page = await open(browser, process.argv[2], { reducedMotion: "no-preference" });
await page.goto("/");
await page.getByRole("link", { name: "Lemon verbena lemonade" }).click();
await page.getByTestId("point").waitFor();
await page.waitForTimeout(500);
const cdp = await page.context().newCDPSession(page);
const events=[]; cdp.on("Tracing.dataCollected", e=>events.push(...e.value));
await cdp.send("Profiler.enable"); await cdp.send("Profiler.setSamplingInterval",{interval:200}); await cdp.send("Profiler.start");
const sugar = page.getByRole("spinbutton", { name: "Amount of White sugar" });
const box = await sugar.boundingBox(); const y = box.y + box.height / 2;
await page.mouse.move(box.x + box.width - 10, y); await page.mouse.down();
for (let i=1;i<=60;i++){ await page.mouse.move(box.x+box.width-10+7*(i<=30?i:60-i), y); await page.waitForTimeout(60);} 
await page.mouse.up();
const {profile}=await cdp.send("Profiler.stop");
const self={}; const dt=profile.timeDeltas; const byId=new Map(profile.nodes.map(n=>[n.id,n])); profile.samples.forEach((id,i)=>{const n=byId.get(id); const k=n.callFrame.functionName+" "+n.callFrame.url.split("/").pop()+":"+n.callFrame.lineNumber; self[k]=(self[k]??0)+dt[i];}); for(const [k,v] of Object.entries(self).sort((a,b)=>b[1]-a[1]).slice(0,45)) console.log(k.padEnd(60),(v/1000/60).toFixed(2));
await browser.close();
