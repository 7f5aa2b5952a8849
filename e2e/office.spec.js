// The office: a customer list comes in and goes again, a model is copied and drawn on, a price changes.
import { demoShop, expect, signIn, test } from "./program.js";

const text = async (download) => {
  let all = "";
  for await (const part of await download.createReadStream()) all += part;
  return all;
};

test("the owner takes a list in, looks at it first, and takes it back", async ({ page }) => {
  const program = demoShop();
  const demo = await program.address;
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/in-out");
  const list = (text) => ({ name: "customers.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await page.locator("input[type=file]").setInputFiles(list("Who;Tel.;E-Mail;Colour\nBeck Mill;0111;mill@beck.example;red\nFell Farm;0222;not-an-address;\n"));
  await page.getByRole("button", { name: "Look at it" }).click();
  await expect(page.getByText("which column is it that holds: Name?")).toBeVisible();
  await page.getByLabel("What Who is").selectOption("Name");
  await expect(page.getByText("1 new, 0 changed, 0 there already, 1 refused")).toBeVisible();
  await expect(page.locator("li", { hasText: "Fell Farm" }).last()).toContainText("Email: an address");
  await page.getByRole("button", { name: "Take 1 row in" }).click();
  await expect(page.getByText("It is taken in.")).toBeVisible();
  const mending = page.waitForEvent("download");
  await page.getByRole("link", { name: "the rows to be mended" }).click();
  const mended = (await text(await mending)).replace("not-an-address", "fell@farm.example");
  expect(mended).toContain("What is wrong");
  await page.locator("textarea[name=pasted]").fill(mended);
  await page.getByRole("button", { name: "Look at it" }).click();
  await expect(page.getByLabel("What Who is")).toHaveValue("name"); // as it was said before
  await expect(page.getByText("1 new, 0 changed, 0 there already.")).toBeVisible();
  await page.getByRole("link", { name: "Another table" }).click();
  await page.goto(demo + "/customers?q=beck");
  await page.getByRole("link", { name: "Beck Mill" }).click();
  await page.getByLabel("Discount on labour").fill("7.5");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByLabel("Discount on labour")).toHaveValue("7.50");
  await page.goto(demo + "/in-out");
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(page.getByText("It is taken back.")).toBeVisible();
  await page.goto(demo + "/customers?q=beck");
  await expect(page.getByText("Nobody is found by that")).toBeVisible();
  const coming = page.waitForEvent("download");
  await page.goto(demo + "/in-out");
  await page.getByRole("link", { name: "Download it all" }).click();
  expect((await coming).suggestedFilename()).toMatch(/^shop-.*\.zip$/);
  await program.stop();
});

test("a model is copied with its limits, and a bolt of it moved by mouse, by keys and by figures", async ({ page }) => {
  const program = demoShop();
  const demo = await program.address;
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/reference/models/1");
  await page.getByText("Correct, copy, retire").click();
  await page.getByLabel("A copy of it, called").fill("Brindlow G4, late");
  await page.getByRole("button", { name: "Copy it with its limits" }).click();
  await expect(page.getByRole("heading", { name: "Brindlow G4, late" })).toBeVisible();
  await expect(page.locator('input[name="guide.clearance/intake/high"]')).toHaveValue("0.08");
  await page.getByRole("link", { name: "Move what is on the face" }).click();
  const bolt = page.locator('svg.headmap.move [data-what=bolt][data-name="1"]');
  const x = page.getByLabel("From the left");
  await bolt.focus();
  const before = Number(await x.inputValue());
  await page.keyboard.press("Shift+ArrowRight");
  expect(Number(await x.inputValue())).toBeCloseTo(before + 5, 2);
  const box = await bolt.boundingBox();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  expect(Number(await x.inputValue())).toBeGreaterThan(before + 8);
  await x.fill("20");
  await page.getByRole("button", { name: "Keep it there" }).click();
  await expect(x).toHaveValue("20.000");
  await x.fill("9000");
  await page.getByRole("button", { name: "Keep it there" }).click();
  await expect(page.getByText("that is beside the face")).toBeVisible();
  await program.stop();
});

test("a part's price is changed in its row; a mistake keeps what was typed", async ({ page }) => {
  const program = demoShop();
  const demo = await program.address;
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/parts");
  const row = page.locator("details.item", { hasText: "Brindlow guide" });
  await row.locator("summary").click();
  await row.getByLabel("Price").fill("a lot");
  await row.getByRole("button", { name: "Keep it" }).click();
  await expect(row.getByLabel("Price")).toHaveValue("a lot");
  await row.getByLabel("Price").fill("15.75");
  await row.getByLabel("Supplier").fill("Guide makers");
  await row.getByRole("button", { name: "Keep it" }).click();
  await expect(page.locator("details.item", { hasText: "Brindlow guide" }).locator("summary")).toContainText("15.75");
  await program.stop();
});

test("a model is drawn as it is typed, and its sheet begins with what every sheet has", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(demo + "/reference/models/new");
  await page.getByLabel("Name", { exact: true }).fill("Cawl 3");
  await page.getByLabel("Cylinders", { exact: true }).fill("3");
  await page.getByLabel(/^\s*Valves of a cylinder/).fill("IE");
  await expect(page.locator("#drawn")).toContainText("3E1");
  await expect(page.locator("#drawn")).toContainText("until it is said: pitch between cylinders, bore");
  for (const [name, text] of Object.entries({ pitch: "30", bore: "90", width: "150", intake_head: "40", exhaust_head: "35" })) await page.locator(`[name="${name}"]`).fill(text);
  await expect(page.locator("#drawn")).toContainText("Pitch between cylinders: must lie between");
  await page.locator('[name="pitch"]').fill("100");
  await expect(page.locator("#drawn")).toContainText("as they will be.");
  await expect(page.locator("#drawn")).not.toContainText("until it is said");
  await page.getByRole("button", { name: "Add it" }).click();

  // ten limits on twenty lines stand there, all else is behind "more"; one source does for all
  await expect(page.locator(".limits tbody tr:visible")).toHaveCount(20);
  const line = (name) => page.getByLabel(name, { exact: true });
  await line("guide.clearance/intake high").fill("0.08");
  await line("seat.width/intake low").fill("1.2");
  await page.getByPlaceholder("find a line").fill("runout");
  await line("valve.runout/intake high").fill("0,04 ells");
  await page.getByLabel("What changed, and why").fill("typed");
  await page.getByRole("button", { name: "Write a new version" }).click();
  await expect(page.locator(".mistakes")).toContainText("3 to be put right");
  await page.locator(".mistakes").getByRole("link", { name: "Valve runout intake" }).first().click();
  await expect(line("valve.runout/intake high")).toHaveValue("0,04 ells"); // its part of the sheet is open
  await expect(line("valve.runout/intake high")).toBeVisible();
  await line("valve.runout/intake high").fill("0.04");
  await page.getByLabel(/^\s*Where from, of every line/).fill("leaflet, page 2");
  await page.getByRole("button", { name: "Write a new version" }).click();
  await expect(page.getByText("Sheet version 2: typed")).toBeVisible();
  for (const name of ["guide.clearance/intake", "seat.width/intake", "valve.runout/intake"]) await expect(line(`${name} source`)).toHaveValue("leaflet, page 2");
  await expect(page.locator(".limits tbody tr:visible")).toHaveCount(21);
});

test("an empty shop says what it has not said yet; what was typed survives a reload", async ({ page }) => {
  const { emptyShop } = await import("./program.js");
  const program = emptyShop();
  const shop = await program.address;
  await page.goto(shop);
  await page.getByLabel("Name").fill("Runa");
  await page.getByLabel(/Password/).fill("long-enough-1");
  await page.getByRole("button").last().click();
  const steps = page.getByRole("region", { name: "first steps" });
  await expect(steps.getByRole("listitem")).toHaveCount(8);
  await steps.getByRole("button", { name: /later: The first bench tablet/ }).click();
  await expect(steps.getByRole("listitem")).toHaveCount(7);
  await page.goto(shop + "/settings");
  await page.getByLabel("Currency").fill("euros");
  await page.getByLabel("Name of the shop").fill("Tarn Heads");
  await page.reload();
  await expect(page.getByLabel("Name of the shop")).toHaveValue("Tarn Heads");
  await expect(page.getByText("What you typed here before is back")).toBeVisible();
  await page.getByRole("button", { name: "Keep the settings" }).click();
  await expect(page.locator("#say-currency")).toHaveText("three capital letters, like EUR");
  await expect(page.locator(".mistakes")).toContainText("1 to be put right"); // and on top, with a way there
  await page.locator(".mistakes").getByRole("link", { name: "Currency" }).click();
  await expect(page.locator("#say-currency")).toBeInViewport();
  await expect(page.getByLabel("Name of the shop")).toHaveValue("Tarn Heads");
  await page.getByLabel("Currency").fill("CHF");
  await page.getByLabel("Tax, percent").fill("999");
  await page.getByRole("button", { name: "Keep the settings" }).click();
  await expect(page.locator("#say-tax")).toHaveText("between 0 and 100 percent");
  await page.getByLabel("Tax, percent").fill("8.1");
  await page.getByRole("checkbox", { name: "what is as usual here is right" }).first().check(); // of money
  await page.getByRole("button", { name: "Keep the settings" }).click();
  await expect(page.getByText(/between 0 and 100|What you typed here before/)).toHaveCount(0);
  await expect(page.locator("#money")).not.toContainText("as usual");
  await program.stop();
});

test("the owner takes what the shop's own heads propose, and leaves the rest", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(`${demo}/week/figures`);
  await page.getByRole("link", { name: "What the shop knows" }).click();
  const first = page.locator("#proposals tbody tr").first();
  const what = (await first.locator("td").first().textContent()).trim();
  await page.getByRole("button", { name: `Take it: ${what}`, exact: true }).click();
  await expect(page.getByRole("button", { name: `Take it: ${what}`, exact: true })).toHaveCount(0);
  const next = (await page.locator("#proposals tbody tr").first().locator("td").first().textContent()).trim();
  await page.getByRole("button", { name: `Leave it: ${next}`, exact: true }).click();
  await expect(page.getByRole("button", { name: `Leave it: ${next}`, exact: true })).toHaveCount(0);
  // every figure opens the heads behind it
  const read = page.getByRole("row", { name: /^Guide bore/ });
  await read.locator("summary").first().click();
  await read.getByRole("link").first().click();
  await expect(page).toHaveURL(/heads\/T0/);
});
