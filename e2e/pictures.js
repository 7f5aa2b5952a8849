// Makes the pictures of docs/screenshots from a running demo:
//   node pictures.js http://127.0.0.1:8417 ../docs/screenshots [name ...]
import { chromium } from "@playwright/test";
import { launch } from "./browser.js";

const [base, folder, ...only] = process.argv.slice(2);
const wide = { width: 1280, height: 800 };
const views = [ // name, path, button to press, size, who looks
  ["floor", "/"], ["sweep", "/heads/T0401/sweep/guide.bore", "", { width: 1024, height: 768 }],
  ["findings", "/heads/T0401/findings/valve.face"], ["tray", "/heads/T0412/tray"],
  ["judge", "/heads/T0401/judge"], ["phone", "/heads/T0401/judge", "", { width: 390, height: 844 }], ["wear", "/heads/T0428/earlier"], ["ways", "/heads/T0401/ways"], ["face", "/heads/T0402/face"],
  ["week", "/week"], ["quote", "/heads/T0414/quote"],
  ["sheet", "/heads/T0402/work/4"], ["check", "/heads/T0405/check"], ["model", "/reference/models/1"], ["tool", "/reference/tools/1"], ["bill", "/heads/T0406/bill"],
  ["recall", "/recall?what=tool+1"], ["score", "/practice/2/truth"], ["practice", "/practice/1/read/guide.bore", "", wide, "Ilka"],
];
const browser = await chromium.launch(launch);
const page = await browser.newPage({ viewport: wide });
let looks = "";
for (const [name, path, press, size, who = "Runa"] of views) {
  if (only.length && !only.includes(name)) continue;
  if (who !== looks) {
    await page.context().clearCookies();
    await page.goto(base + "/sign-in");
    await page.getByLabel("Name").fill(who);
    await page.getByLabel("Password").fill("tarn-street-1");
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.waitForURL(base + "/");
    looks = who;
  }
  await page.setViewportSize(size ?? wide);
  await page.goto(base + path);
  if (press) await page.locator(`button[name="${press}"]`).click();
  await page.waitForLoadState("networkidle");
  await page.screenshot({ path: `${folder}/${name}.png` });
}
await browser.close();
