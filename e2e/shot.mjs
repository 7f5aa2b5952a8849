import { chromium } from "@playwright/test";
import { launch } from "./browser.js";
const [base, who, w, h, ...paths] = process.argv.slice(2);
const browser = await chromium.launch(launch);
const page = await browser.newPage({ viewport: { width: +w, height: +h } });
page.on("console", (m) => m.type() === "error" && console.log(m.text()));
await page.goto(base + "/sign-in");
await page.getByLabel("Name").fill(who);
await page.getByLabel("Password").fill("tarn-street-1");
await page.getByRole("button", { name: "Sign in" }).click();
await page.waitForURL(base + "/");
let i = 0;
for (const p of paths) {
  await page.goto(base + p);
  await page.waitForLoadState("networkidle");
  await page.waitForTimeout(300);
  await page.screenshot({ path: `/tmp/shot${i++}.png`, fullPage: process.env.FULL === "1" });
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  console.log(p, "overflow", wide);
}
await browser.close();
