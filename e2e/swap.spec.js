// A head's pages change where they stand: tabs and forms swap the main part, and nothing typed is lost.
import { demoFile, expect, signIn, start, test } from "./program.js";

test("tabs and the route card swap the page's main part; the address, the title and the back button follow", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0401/judge`);
  await page.evaluate(() => (window.same = true)); // lost when a whole page is loaded
  await page.getByRole("link", { name: "Springs, lash" }).click();
  await expect(page.getByRole("heading", { name: "Springs", exact: true })).toBeVisible();
  await expect(page).toHaveURL(/T0401\/springs$/);
  await expect(page).toHaveTitle(/T0401/);
  await expect(page.locator("#main")).toBeFocused(); // who reads by ear begins at the new part
  await page.getByRole("navigation", { name: "Route card" }).getByRole("link", { name: /^Work/ }).click();
  await expect(page).toHaveURL(/T0401\/work$/);
  expect(await page.evaluate(() => window.same)).toBe(true);
  await page.goBack();
  await expect(page.getByRole("heading", { name: "Springs", exact: true })).toBeVisible();
  await page.goBack();
  await expect(page.locator("#decisions")).toBeVisible();
  await page.getByLabel("Facing cut").fill("0.3"); // and what is there works
  await expect(page.locator("#hold")).toBeChecked();
});

test("a form answers in place: what it wrote is there, its field is empty, the address stays", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0403/intake`);
  await page.evaluate(() => (window.same = true));
  const note = page.getByLabel("a note on this job");
  await note.fill("called, wants it Thursday");
  await page.getByRole("button", { name: "Keep the note" }).click();
  await expect(page.locator("main")).toContainText("called, wants it Thursday");
  await expect(note).toHaveValue("");
  await expect(page).toHaveURL(/T0403\/intake/);
  expect(await page.evaluate(() => window.same)).toBe(true);
});

test("where the shop does not answer the page stays, with all that was typed, and says so", async ({ page }) => {
  const program = start("demo", "--keep", demoFile());
  const demo = await program.address;
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0402/causes`);
  const settles = page.getByPlaceholder("what settles it").first();
  await settles.fill("the thermostat was stuck");
  await program.stop();
  await page.getByRole("button", { name: "Confirm" }).first().click();
  await expect(page.getByRole("alert").filter({ hasText: "The shop does not answer" })).toBeVisible();
  await expect(settles).toHaveValue("the thermostat was stuck");
  await expect(page).toHaveURL(/T0402\/causes$/);
});

test("heads are found while one types, by part of a name; Enter goes to the one that is meant", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/search`);
  await page.getByRole("main").getByRole("textbox").pressSequentially("mossf");
  await expect(page.locator("#found")).toContainText("Mossfield Growers");
  await expect(page).toHaveURL(/q=mossf/);
  await page.getByRole("main").getByRole("textbox").fill("T0409");
  await expect(page.locator("#found tbody tr")).toHaveCount(1);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/heads\/T0409/);
});
