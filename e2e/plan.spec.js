// The planner as the lead uses it: the cut is moved, a plan is refused with its reason, a
// shim list, a cause confirmed, a doubt released, a plan kept.
import { expect, signIn, test } from "./program.js";

test("moving the facing cut moves every valve, at once", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0405/plan`);
  const row = page.locator(".strips tr", { hasText: "1I1" });
  const before = await row.locator(".fig").nth(1).textContent();
  await expect(page.locator(".result")).toContainText("0.000 mm");
  const price = await page.locator(".result .big").nth(1).textContent();
  const cut = page.locator("#cut");
  await cut.focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press("ArrowRight");
  await expect(page.locator(".result")).toContainText("0.200 mm");
  await expect(page.locator("#hold")).toBeChecked();
  await expect(row.locator(".fig").nth(1)).not.toHaveText(before);
  expect(await page.locator(".result .big").nth(1).textContent()).not.toBe(price);
  await expect(cut).toBeFocused();
});

test("a plan nothing fits is refused now, and says why", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0414/plan`);
  await expect(page.locator(".refused")).toHaveCount(0);
  await page.getByLabel("seat of 2E1").selectOption("cut");
  await page.getByLabel("valve of 2E1").selectOption("grind");
  await expect(page.locator(".refused")).toContainText("2E1: no allowed set of actions brings its valve recession, now 1.71 mm, to 1 to 1.6 mm");
  await expect(page.getByRole("button", { name: "Keep this plan" })).toBeDisabled();
  await page.getByLabel("seat of 2E1").selectOption("insert");
  await expect(page.locator(".refused")).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Keep this plan" })).toBeEnabled();
});

test("a shim list names what is kept, moved and taken from the box", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0402/springs`);
  const list = page.locator(".shimlist");
  await expect(list.getByRole("row", { name: /kept/ }).first()).toBeVisible();
  await expect(list.getByRole("row", { name: /stock/ }).first()).toBeVisible();
  await expect(page.locator(".shimbox")).toContainText("2.60");
});

test("a cause is confirmed, and goes into the report", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0413/causes`);
  const bent = page.locator(".cause", { hasText: "valve bent" });
  await expect(bent.locator(".for", { hasText: "the leak moves with the valve" })).toContainText("3I1");
  await bent.getByLabel("note on valve bent").fill("marks on piston 3");
  await bent.getByRole("button", { name: "Confirm" }).click();
  await expect(page.locator(".cause", { hasText: "valve bent" })).toContainText("confirmed");
  await page.goto(`${demo}/heads/T0413/report`);
  await expect(page.locator("body")).toContainText("valve bent");
  await expect(page.locator("body")).toContainText("marks on piston 3");
});

test("what the lead holds stays held, robust says what it costs more, and a reading's worth is named where it is read", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/heads/T0401/plan");
  const price = async () => parseFloat((await page.locator("#answer .result", { hasText: "price" }).locator("p", { hasText: "price" }).locator("b").innerText()).replace(/[^\d.]/g, ""));
  const free = await price();
  const changed = page.waitForResponse((r) => r.url().includes("seat.2E1=insert"));
  await page.locator('select[name="seat.2E1"]').selectOption("insert");
  await changed;
  await expect(page.locator('select[name="seat.2E1"]')).toHaveValue("insert");
  await expect(page.locator("#answer")).toContainText("2E1: new insert");
  expect(await price()).toBeGreaterThan(free);

  await page.goto(demo + "/heads/T0401/plan?alt=robust");
  expect(await price()).toBeGreaterThan(free);
  const sure = parseFloat(await page.locator("#answer p", { hasText: "all ends inside" }).locator("b").innerText());
  expect(sure).toBeGreaterThan(90);
  const ways = page.locator("#ways");
  await expect(ways.getByRole("row", { name: /Robust/ })).toContainText("EUR");
  await page.goto(demo + "/heads/T0401/plan");
  await expect(ways.locator("#worths")).toContainText("4I1 Guide clearance");
  await page.goto(demo + "/heads/T0401/measure");
  await expect(page.locator("#worths")).toContainText(/4I1 Guide clearance with .*: worth \d+\.\d\d EUR/);
});

test("a plan is kept, a doubt released, and the work follows from both", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0401/plan`);
  await page.getByRole("button", { name: "Keep this plan and decide by it" }).click();
  await expect(page.getByRole("heading", { name: "11 to decide" })).toBeVisible();
  const doubt = page.locator(".finding", { hasText: "4I1" });
  await doubt.getByLabel("Release the doubt, because", { exact: true }).check();
  await doubt.getByLabel(/why .* is left/).fill("read with the ring gauge, 0.07");
  await page.getByRole("button", { name: "Decide these" }).click();
  await page.goto(`${demo}/heads/T0401/plan`);
  await expect(page.getByText(/Plan 1 \(balanced\) was kept by Odo/)).toBeVisible();
  await page.goto(`${demo}/heads/T0401/judge`);
  await page.getByRole("button", { name: "Decide and order the work" }).click();
  await expect(page.locator(".ops")).toContainText("New guides");
  await expect(page.locator(".ops")).toContainText("Face the head");
});

test("a head is decided in one press: what is ticked is what the plan of the whole head does", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0412/judge`);
  const findings = parseInt(await page.getByRole("heading", { name: /to decide, in/ }).textContent());
  expect(findings).toBeGreaterThan(3);
  await expect(page.locator(".decide .quiet")).toContainText(`${findings} of ${findings} open`);
  let presses = 0;
  await page.exposeFunction("pressed", () => presses++);
  await page.addInitScript(() => addEventListener("click", () => window.pressed(), true));
  await page.reload();
  await page.getByRole("button", { name: "Decide these" }).click();
  await expect(page.locator(".decide .quiet")).toContainText(`0 of ${findings} open`);
  expect(presses).toBe(1);
  // an exception is taken out of its group, with its own reason
  const group = page.locator(".finding", { has: page.locator(".single") }).first();
  await group.getByText("other, or leave").click();
  const row = group.locator(".single tr").last();
  await row.getByRole("combobox").selectOption("leave");
  await page.getByRole("button", { name: "Decide these" }).click();
  await expect(page.getByText("say why it may be left")).toBeVisible();
  await group.locator(".single tr").last().getByRole("textbox").fill("the customer brings another");
  await page.getByRole("button", { name: "Decide these" }).click();
  await expect(page.getByText("say why it may be left")).toHaveCount(0);
  await expect(group.locator(".single tr").last().getByRole("combobox")).toHaveValue("leave");
});
