// Makes the pictures of docs/screenshots from a running demo:
//   node pictures.js http://127.0.0.1:8417 ../docs/screenshots [name ...]
import { chromium } from "@playwright/test";
import { launch } from "./browser.js";

const [base, folder, ...only] = process.argv.slice(2);
const views = [
  ["floor", "/"], ["take-in", "/take-in"], ["measure", "/heads/T0401/measure"], ["sweep", "/heads/T0401/sweep/guide.bore", "", { width: 1024, height: 768 }],
  ["findings", "/heads/T0401/findings/valve.face"], ["map", "/heads/T0402/map"], ["tray", "/heads/T0412/tray"],
  ["judge", "/heads/T0401/judge"], ["phone", "/heads/T0401/judge", "", { width: 390, height: 844 }], ["wear", "/heads/T0428/earlier"], ["ways", "/heads/T0401/ways"], ["face", "/heads/T0402/face"],
  ["week", "/week"], ["quote", "/heads/T0414/quote"],
  ["sheet", "/heads/T0402/work/4"], ["check", "/heads/T0405/check"], ["parts", "/parts"], ["bill", "/heads/T0406/bill"],
  ["calculator", "/reference/calc/clearance?example=1", "answer"],
];
const browser = await chromium.launch(launch);
const wide = { width: 1280, height: 800 };
const page = await browser.newPage({ viewport: wide });
await page.goto(base + "/sign-in");
await page.getByLabel("Name").fill("Runa");
await page.getByLabel("Password").fill("tarn-street-1");
await page.getByRole("button", { name: "Sign in" }).click();
await page.waitForURL(base + "/");
for (const [name, path, press, size] of views) {
  if (only.length && !only.includes(name)) continue;
  await page.setViewportSize(size ?? wide);
  await page.goto(base + path);
  if (press) await page.locator(`button[name="${press}"]`).click();
  await page.waitForLoadState("networkidle");
  await page.screenshot({ path: `${folder}/${name}.png` });
}
await browser.close();
