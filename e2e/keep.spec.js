// What keeps the shop's data: a backup taken from the page, put back by the program.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { binary, demoFile, expect, signIn, start, test } from "./program.js";

test("the owner downloads a backup, the file is lost, the backup brings the shop back", async ({ page }) => {
  const dir = mkdtempSync(join(tmpdir(), "yatai-keep-"));
  const file = demoFile();
  let program = start("demo", "--keep", file);
  let demo = await program.address;
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/heads/T0407/sweep/valve.margin");
  await page.locator('input[data-key="1I1"]').fill("1.87");
  await page.keyboard.press("Enter");
  await expect(page.locator("#progress")).toContainText("1 of");
  await page.goto(demo + "/settings");
  await expect(page.getByText("None has been taken yet")).toBeVisible();
  const coming = page.waitForEvent("download");
  await page.getByRole("button", { name: "Download a backup" }).click();
  const backup = join(dir, "backup.db");
  await (await coming).saveAs(backup);
  await page.goto(demo + "/settings");
  await expect(page.getByText("The last one was taken")).toBeVisible();

  const restore = (to) => spawnSync(binary, ["restore", "--from", backup, "--db", to], { encoding: "utf8" });
  expect(restore(file).stderr).toContain("in use by a running program");
  await program.stop();
  const elsewhere = join(dir, "new.db");
  expect(restore(elsewhere).status).toBe(0);
  expect(execFileSync(binary, ["doctor", "--db", elsewhere], { encoding: "utf8" })).toContain("The file is sound");
  expect(restore(file).stdout).toContain("What was there is kept as");

  program = start("serve", "--db", elsewhere);
  demo = await program.address;
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/heads/T0407/sweep/valve.margin");
  await expect(page.locator('input[data-key="1I1"]')).toHaveValue("1.87");
  await program.stop();
});
