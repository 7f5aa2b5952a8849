// What wears and what drifts: a head that was here before is matched, and a tool's chart goes off.
import { expect, signIn, test } from "./program.js";

test("a head that was here before is matched by its marks, and what wears is told", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/take-in`);
  await page.getByLabel("Customer", { exact: true }).fill("Upper Fold Orchards");
  await page.getByLabel("Machine or engine").fill("Frost pump");
  await page.getByRole("combobox", { name: /^Model/ }).selectOption("Brindlow G4");
  await expect(page.locator("#life")).toContainText("heads of it were mended here");
  await page.getByLabel(/Casting and serial marks/).fill("G4-4 1120");
  await page.getByLabel("Hours or distance run").fill("6100");
  await page.getByLabel("The story").fill("Before the season.");
  await page.getByLabel("Failed in service").check();
  await page.getByRole("button", { name: "Take it in" }).click();
  await page.waitForURL(/heads\/T\d+/);
  const head = page.url().match(/heads\/T\d+/)[0];
  await page.goto(`${demo}/${head}/earlier`);
  await expect(page.locator("main")).toContainText("Was it here before?");
  const same = page.getByRole("row", { name: /the same/ }).first();
  await same.getByRole("button", { name: "It is this one" }).click();
  await expect(page.getByRole("heading", { name: /Visits of this head:/ })).toBeVisible();
});

test("a tool's zero checks go off: the chart says so, and it leads what the shop knows", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(`${demo}/knows`);
  const first = page.locator("table", { hasText: "Checks in a year" }).locator("tbody tr").first();
  await expect(first).toContainText("in a row");
  const name = (await first.getByRole("link").textContent()).trim();
  await first.getByRole("link").click();
  const chart = page.locator("svg.zerochart");
  await expect(chart).toHaveAttribute("aria-label", /each further than the one before/);
  const signs = await chart.locator("path.sign").count();
  const standard = parseFloat((await page.getByText(/On its standard of/).textContent()).match(/standard of ([\d.]+)/)[1]);
  await page.getByLabel(/On its standard of/).fill((standard + 0.0024).toFixed(4));
  await page.getByRole("button", { name: "Record the zero check" }).click();
  await expect(chart.locator("path.sign")).not.toHaveCount(signs);
  await page.goto(`${demo}/recall`);
  await expect(page.locator("main")).toContainText(name); // what else did it touch?
});
