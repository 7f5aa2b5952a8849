// The planner as the lead uses it: the cut is moved, a plan is refused with its reason, a
// shim list, a cause confirmed, a doubt released, a plan kept.
import { expect, signIn, test } from "./program.js";

test("moving the facing cut moves every valve, at once", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0412/judge`);
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
  await page.goto(`${demo}/heads/T0414/judge`);
  await expect(page.locator(".refused")).toHaveCount(0);
  await page.getByLabel("seat of 2E1").selectOption("cut");
  await expect(page.locator(".refused")).toContainText("2E1");
  await page.getByLabel("valve of 2E1").selectOption("grind");
  await expect(page.locator(".refused")).toContainText("2E1: no allowed set of actions brings its valve recession, now 1.71 mm, to 1 to 1.6 mm");
  await page.getByLabel("seat of 2E1").selectOption("insert");
  await expect(page.locator(".refused")).toHaveCount(0);
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
  await page.goto(demo + "/heads/T0401/judge");
  const price = async () => parseFloat((await page.locator(".result p", { hasText: "price" }).locator("b").innerText()).replace(/[^\d.]/g, ""));
  const free = await price();
  await page.locator('select[name="seat.2E1"]').selectOption("insert");
  await expect(page.locator("#answer")).toContainText("2E1: new insert");
  await expect(page.locator('select[name="seat.2E1"]')).toHaveValue("insert");
  expect(await price()).toBeGreaterThan(free);

  await page.goto(demo + "/heads/T0401/judge?alt=robust");
  expect(await price()).toBeGreaterThan(free);
  const sure = parseFloat(await page.locator(".result p", { hasText: "all ends inside" }).locator("b").innerText());
  expect(sure).toBeGreaterThan(90);
  await expect(page.locator("#ways").getByRole("row", { name: /Robust/ })).toContainText("EUR");
  await page.goto(demo + "/heads/T0401/judge");
  await expect(page.locator("#worths")).toContainText(/4I1 Guide clearance\s+with .* takes 2 min: more than it saves/);
  await page.goto(demo + "/heads/T0401/measure");
  await expect(page.locator("#worths")).toContainText(/4I1 Guide clearance\s+with .* takes 2 min: more than it saves/);
});

test("a plan is kept, a doubt released, and the work follows with what should be done besides", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0401/judge`);
  await page.getByRole("button", { name: "Decide, keep as plan 1" }).click();
  await expect(page.getByText(/Plan 1 \(balanced\) was kept by Odo/)).toBeVisible();
  await expect(page.getByText("11 to decide")).toBeVisible();
  const doubt = page.locator(".finding", { hasText: "4I1" });
  await doubt.getByLabel("Release the doubt, because", { exact: true }).check();
  await doubt.getByLabel(/why .* is left/).fill("read with the ring gauge, 0.07");
  await page.locator(".beside", { hasText: "Could be done" }).getByRole("checkbox").first().uncheck();
  await page.getByRole("button", { name: "Decide and order the work" }).click();
  await expect(page.locator(".ops")).toContainText("New guides");
  await expect(page.locator(".ops")).toContainText("Face the head");
  await expect(page.locator(".ops tr", { hasText: "Grind tips" })).toContainText("18 min");
  await expect(page.locator(".ops tr", { hasText: "New inserts" })).toHaveCount(1); // could be done, and was ticked
});

test("a head is decided in one press: what is ticked is what the plan of the whole head does", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0412/judge`);
  const findings = parseInt(await page.getByText(/^\s*\d+ to decide/).textContent());
  expect(findings).toBeGreaterThan(3);
  await expect(page.locator(".decide .text-body-secondary")).toContainText(`${findings} of ${findings} open`);
  let presses = 0;
  await page.exposeFunction("pressed", () => presses++);
  await page.addInitScript(() => addEventListener("click", () => window.pressed(), true));
  await page.reload();
  await page.getByRole("button", { name: /Decide, keep as plan/ }).click();
  await expect(page.locator(".decide .text-body-secondary")).toContainText(`0 of ${findings} open`);
  expect(presses).toBe(1);
  // an exception is taken out of its group, with its own reason
  const group = page.locator(".finding", { has: page.locator(".single") }).first();
  await group.getByText("other answers").click();
  const key = await group.locator(".single tr").last().getByRole("combobox").getAttribute("id");
  const row = page.locator("tr", { has: page.locator(`[id="${key}"]`) });
  await row.getByRole("combobox").selectOption("leave");
  await page.getByRole("button", { name: /Decide, keep as plan/ }).click();
  await expect(page.getByText("say why it may be left")).toBeVisible();
  await page.locator(".finding", { hasText: "say why it may be left" }).getByRole("textbox").last().fill("the customer brings another");
  await page.getByRole("button", { name: /Decide, keep as plan/ }).click();
  await expect(page.getByText("say why it may be left")).toHaveCount(0);
});

test("one answer is changed and the rest is worked out again; what was chosen stays chosen", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0409/judge`);
  const first = page.locator(".line .finding").first();
  const label = await first.getAttribute("aria-label");
  const group = page.getByRole("group", { name: label });
  const price = page.locator(".result .big", { hasText: "price" });
  const before = await price.textContent();
  await first.getByText("other answers").click();
  await first.getByLabel(/Leave, because/).check();
  await expect(group.locator(".reason")).toBeFocused();
  await group.locator(".reason").fill("the customer brings another");
  await page.keyboard.press("Tab");
  await expect(page.locator(".line").filter({ has: group })).toHaveCount(0); // no work answers it any more
  await expect(price).not.toHaveText(before);
  await expect(group.getByLabel(/Leave, because/)).toBeChecked();
  await page.getByRole("button", { name: "Decide, keep as plan 1" }).click();
  await expect(page.getByText(/Plan 1 \(balanced\) was kept by Odo/)).toBeVisible();
  await group.getByText("other answers").click();
  await expect(group.getByLabel(/Leave, because/)).toBeChecked();
  await expect(page.locator(".line").filter({ has: group })).toHaveCount(0);
});

test("a press that has begun and an answer that stands open outlive what is worked out meanwhile", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0409/judge`);
  const finding = page.locator(".line .finding").first();
  await finding.getByText("other answers").click();
  let answer, asked;
  const waits = new Promise((resolve) => (answer = resolve)), out = new Promise((resolve) => (asked = resolve));
  await page.route("**/judge", async (route) => {
    if (!route.request().headers()["hx-request"]) return route.continue();
    const response = await route.fetch();
    asked();
    await waits;
    await route.fulfill({ response });
  });
  await page.locator(".beside input").first().uncheck();
  await out;
  await page.getByRole("button", { name: "Decide and order the work" }).hover();
  await page.mouse.down();
  await page.evaluate(() => document.addEventListener("htmx:afterSettle", () => (document.body.dataset.settled = "yes"), { once: true }));
  answer(); // once somebody listens for it
  await expect(page.locator("body")).toHaveAttribute("data-settled", "yes");
  await expect(finding.locator("details").first()).toHaveAttribute("open", "");
  await expect(page.locator(".beside input").first()).not.toBeChecked();
  const sent = page.waitForRequest((r) => r.method() === "POST" && r.isNavigationRequest() && r.postData().includes("then=order"));
  await page.mouse.up();
  await sent;
});

test("a repair of the shop's own, with the part it fits, is held at a valve and paid for", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(`${demo}/reference/models/3`);
  await page.getByText("Add a repair of your own").click();
  const form = page.locator('form[action*="/repairs?"]');
  await form.getByLabel("Called").fill("Cap the tips");
  await form.getByLabel("It works on").selectOption("tip");
  await form.getByLabel("Done at").selectOption("assembly bench");
  await form.getByLabel("Minutes, once").fill("5+4");
  await form.getByLabel("Size, the least").fill("0.1");
  await form.getByLabel("Size, the most").fill("0.8");
  await form.getByLabel("Stem height").selectOption("up");
  await form.getByLabel("A part it fits").fill("hard cap, 8 mm");
  await form.getByRole("button", { name: "Add the repair" }).click();
  await expect(form.getByLabel("Called")).toHaveValue("Cap the tips");
  await expect(form).toContainText("no commas");
  await form.getByLabel("A part it fits").fill("hard cap 8 mm");
  await form.getByRole("button", { name: "Add the repair" }).click();
  await expect(page.getByRole("row", { name: /Cap the tips/ })).toContainText("hard cap 8 mm");

  await page.goto(`${demo}/parts`);
  await page.getByText("Add a part to the list").click();
  const part = page.locator('form[action="/parts/add"]');
  await part.getByLabel("What it is").selectOption("own: hard cap 8 mm");
  await part.getByLabel("Name").fill("Cap");
  await part.locator('[name="price"]').fill("7.40");
  await part.getByLabel("There now").fill("2");
  await part.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByText("own: hard cap 8 mm").first()).toBeVisible();

  await page.goto(`${demo}/heads/T0414/judge`);
  await page.getByLabel("tip of 3I1").selectOption("Cap the tips");
  await expect(page.locator("main")).toContainText(/Cap the tips\s+3I1\s+0\.100 mm/);
});
