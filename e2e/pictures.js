// Makes the pictures of docs/screenshots from a running demo:
//   node pictures.js http://127.0.0.1:8417 ../docs/screenshots [name ...]
import { chromium } from "@playwright/test";
import { launch } from "./browser.js";

const [base, folder, ...only] = process.argv.slice(2);
const extra = [["findings", "/heads/T0401/findings/valve.face"], ["map", "/heads/T0402/map"], ["cover", "/heads/T0402/map?side=cover&zoom=2"], ["tray", "/heads/T0412/tray"], ["study", "/reference/tools/1/study"], ["photos", "/heads/T0402/photos"], ["given", "/reference/models/1?set=given"], ["rules", "/heads/T0411/judge"], ["plan", "/heads/T0401/plan"], ["plan2", "/heads/T0414/plan?seat.2E1=cut"], ["face", "/heads/T0402/face"], ["seats", "/heads/T0401/seats?at=1E1"], ["guides", "/heads/T0401/guides"], ["springs", "/heads/T0402/springs"], ["causes", "/heads/T0401/causes"], ["parts", "/parts"], ["settings", "/settings"], ["schools", "/heads/T0401/schools"], ["quote", "/heads/T0414/quote"], ["sheet", "/heads/T0402/work/5"], ["work2", "/heads/T0402/work"], ["follow", "/follow-up"], ["earlier", "/heads/T0406/earlier"], ["outbox", "/outbox"]];
const views = [
  ["floor", "/"], ["take-in", "/take-in"], ["measure", "/heads/T0401/measure"], ["sweep", "/heads/T0401/sweep/guide.bore"],
  ["judge", "/heads/T0401/judge"], ["position", "/heads/T0401/at/2E1"], ["work", "/heads/T0402/work"], ["check", "/heads/T0405/check"],
  ["report", "/heads/T0406/report"], ["reference", "/reference"], ["limits", "/reference/models/1"], ["calculator", "/reference/calc/clearance?example=1", "answer"],
];
const browser = await chromium.launch(launch);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(base + "/sign-in");
await page.getByLabel("Name").fill("Runa");
await page.getByLabel("Password").fill("tarn-street-1");
await page.getByRole("button", { name: "Sign in" }).click();
await page.waitForURL(base + "/");
for (const [name, path, press] of only.length ? [...views, ...extra] : views) {
  if (only.length && !only.includes(name)) continue;
  await page.goto(base + path);
  if (press) await page.locator(`button[name="${press}"]`).click();
  await page.waitForLoadState("networkidle");
  await page.screenshot({ path: `${folder}/${name}.png` });
}
await browser.close();
