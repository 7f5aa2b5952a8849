// The gauge stand-in, and two people on one head.
import { spawnSync } from "node:child_process";
import { binary, expect, signIn, test } from "./program.js";

test("a gauge sends its readings to the sweep open at its station", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/people");
  await page.getByLabel("Its name").fill("Bench 2");
  await page.getByRole("button", { name: "Enrol this tablet" }).click();
  const key = await page.locator("#gauge-key").textContent();
  const gauge = (count, ...more) => spawnSync(binary, ["gauge", "--to", demo, "--key", key, "--pace", "150ms", "--count", String(count), "--seed", "7", ...more], { encoding: "utf8" });
  expect(gauge(1).stderr).toContain("no sweep is open at Bench 2");
  await page.goto(demo + "/heads/T0407/sweep/guide.bore");
  await expect(page.locator('input[data-key="1I1.top.A"]')).toBeFocused();
  const { spawn } = await import("node:child_process");
  const run = spawn(binary, ["gauge", "--to", demo, "--key", key, "--pace", "200ms", "--count", "7", "--seed", "7"]);
  let said = "";
  run.stdout.on("data", (d) => (said += d));
  await new Promise((done) => run.on("exit", done));
  await expect(page.locator("#progress")).toContainText("7 of 144");
  const shown = await page.locator("td.standing input[data-key]").evaluateAll((all) => all.map((i) => i.value));
  expect(shown).toEqual(said.trim().split("\n").map((l) => l.replace(" mm", "mm")));
  await expect(page.locator('input[data-key="1I2.top.B"]')).toBeFocused();
});

test("two people on one sweep see each other's readings appear", async ({ page, demo, browser }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(demo + "/heads/T0407/sweep/stem.height");
  const other = await (await browser.newContext()).newPage();
  await signIn(other, demo, "Odo");
  await other.goto(demo + "/heads/T0407/sweep/stem.height");
  await other.locator('input[data-key="6E2"]').fill("62.15");
  await other.keyboard.press("Enter");
  await expect(page.locator('input[data-key="6E2"]')).toHaveValue("62.15");
  await expect(page.locator("#net")).toContainText("Odo reads this too");
  await page.locator('input[data-key="1I1"]').focus();
  await page.keyboard.type("62.2");
  await page.keyboard.press("Enter");
  await expect(other.locator('input[data-key="1I1"]')).toHaveValue("62.2");
  await expect(page.locator("#progress")).toContainText("2 of 24");
});
