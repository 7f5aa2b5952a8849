import AxeBuilder from "@axe-core/playwright";
import { expect, signIn, test } from "./program.js";

test("a calculator: the example, the worked steps, a mistake beside its field", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/reference");
  await page.getByRole("link", { name: "Rock test" }).click();
  await page.getByRole("link", { name: "Fill in the example" }).click();
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.locator(".answer")).toContainText("0.130435 mm");
  await page.getByLabel("guide_length").fill("48");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.getByText("the unit is missing")).toBeVisible();
  await expect(page.getByLabel("guide_length")).toHaveValue("48");
});

test("a calculator's table grows a row, and its answer is kept on a head", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/reference/calc/bearing?example=1");
  await page.getByRole("button", { name: "one more row" }).click();
  await page.getByLabel("shells[1].name").fill("B");
  await page.getByLabel("shells[1].thickness").fill("1.492mm");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.locator(".answer")).toContainText("0.024 mm");
  await page.getByLabel("Tag", { exact: true }).fill("T0401");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.locator(".note")).toContainText("1.492mm");
});

test("the owner edits a limit: a new version, with its source", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/reference/models/2");
  await page.getByLabel("seat.width/intake high").fill("1.7 cubits");
  await page.getByLabel("What changed, and why").fill("bulletin 9");
  await page.getByRole("button", { name: "Write a new version" }).click();
  await expect(page.getByText("unknown unit")).toBeVisible();
  await expect(page.getByLabel("seat.width/intake high")).toHaveValue("1.7 cubits");
  await page.getByLabel("seat.width/intake high").fill("1.7");
  await page.getByRole("button", { name: "Write a new version" }).click();
  await expect(page.getByText("Sheet version 3: bulletin 9")).toBeVisible();
});

test("the main views have no accessibility faults a machine can find", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  for (const path of ["/", "/take-in", "/heads/T0401/judge", "/heads/T0401/sweep/guide.bore", "/heads/T0402/work", "/heads/T0405/check", "/reference", "/reference/models/1", "/reference/calc/plan?example=1", "/people"]) {
    await page.goto(demo + path);
    const found = await new AxeBuilder({ page }).withTags(["wcag2a", "wcag2aa"]).analyze();
    expect(found.violations.map((v) => `${path}: ${v.id}: ${v.nodes[0].html}`)).toEqual([]);
  }
});
