import { faults } from "./axe.js";
import { demoShop, expect, signIn, test } from "./program.js";

test("a calculator: the example, the worked steps, a mistake beside its field", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/reference");
  await page.getByRole("link", { name: "Rock test", exact: true }).click();
  await page.getByRole("link", { name: "Fill in the example", exact: true }).click();
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.locator(".answer")).toContainText("0.130435 mm");
  const rod = page.getByLabel("guide_length");
  await rod.fill("48"); // a bare number is in the unit that the page shows
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.locator(".answer")).toContainText("mm");
  await rod.fill("48 furlong");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(rod.locator("xpath=ancestor::label/..")).toContainText("unknown unit: use mm, in");
  await expect(rod).toHaveValue("48 furlong");
  await expect(rod).toHaveAttribute("aria-invalid", "true");
});

test("a calculator's table grows a row, and its answer is kept on a head", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/reference/calc/bearing?example=1");
  await page.getByRole("group", { name: "shells" }).getByRole("button", { name: "one more row" }).click();
  await page.getByLabel("shells[1].name").fill("B");
  await page.getByLabel("shells[1].thickness").fill("1.492mm");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.locator(".answer")).toContainText("0.024 mm");
  await page.getByLabel("Tag", { exact: true }).fill("T0401");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.locator(".note", { hasText: "bearing" })).toContainText("1.492mm");
});

test("the owner edits a limit: a new version, with its source", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/reference/models/2");
  await page.getByLabel("seat.width/intake high").fill("1.7 cubits");
  await page.getByLabel("What changed, and why").fill("bulletin 9");
  await page.getByRole("button", { name: "Write a new version" }).click();
  await expect(page.locator('[id="say-seat.width/intake/high"]')).toContainText("unknown unit");
  await expect(page.getByLabel("seat.width/intake high")).toHaveValue("1.7 cubits");
  await page.getByLabel("seat.width/intake high").fill("1.7");
  await page.getByRole("button", { name: "Write a new version" }).click();
  await expect(page.getByText("Sheet version 6: bulletin 9")).toBeVisible();
});

test("a failed zero check blocks the tool and marks its readings until the lead releases them", async ({ page }) => {
  const program = demoShop(); // of its own: the caliper stays blocked
  const demo = await program.address;
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/reference");
  await page.getByRole("link", { name: "Caliper", exact: true }).click();
  await page.getByLabel(/it reads/).fill("2.5");
  await page.getByRole("button", { name: "Record" }).click();
  await expect(page.getByText("type the whole size")).toBeVisible();
  await page.getByLabel(/it reads/).fill("25.05");
  await page.getByRole("button", { name: "Record" }).click();
  await expect(page.getByText("It failed its last zero check and is blocked")).toBeVisible();
  await page.goto(demo + "/heads/T0407/sweep/seat.width");
  await page.keyboard.type("2.1");
  await page.keyboard.press("Enter");
  await expect(page.locator("#net")).toContainText("failed its zero check");
  await page.goto(demo + "/heads/T0401/at/2E1");
  await expect(page.getByText("suspect: its tool failed a zero check").first()).toBeVisible();
  await page.goto(demo + "/heads/T0401/check");
  const line = page.locator(".gate tr", { hasText: "Caliper" });
  await line.getByLabel(/why readings with Caliper hold/).fill("checked against the micrometer");
  await line.getByRole("button", { name: "Release" }).click();
  await expect(page.locator(".gate tr", { hasText: "Caliper" })).toHaveCount(0);
  await program.stop();
});

// Every page is looked at in screens.spec.js, on one head; these are heads in other states.
test("heads in other states have no accessibility faults a machine can find", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  for (const path of [
    "/heads/T0401/judge", "/heads/T0401/sweep/guide.bore", "/heads/T0402/work", "/heads/T0405/check", "/reference/calc/plan?example=1", "/heads/T0401/map",
    "/heads/T0401/findings/valve.face", "/heads/T0412/tray", "/heads/T0401/judge", "/heads/T0402/face", "/heads/T0401/seats", "/heads/T0401/causes",
    "/heads/T0402/work/4",
  ]) {
    await page.goto(demo + path);
    expect(await faults(page)).toEqual([]);
  }
});
