// What was wrong, is refused or comes back has a way on: a take-in corrected, a head that goes back without
// its work, a comeback at no charge, a final check settled by its links, a delivery in parts.
import { expect, signIn, test } from "./program.js";

test("a take-in is corrected, and an inspection is mended after all", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0407/intake`);
  await page.getByRole("link", { name: "Correct it" }).click();
  await expect(page.getByLabel("Customer", { exact: true })).toHaveValue("High Pistes");
  await page.getByLabel("Customer", { exact: true }).fill("");
  await page.getByLabel("The story").fill("told again, at the counter");
  await page.getByRole("button", { name: "Keep it so" }).click();
  await expect(page.getByText("whose head is it?")).toBeVisible();
  await expect(page.getByLabel("The story")).toHaveValue("told again, at the counter");
  await page.getByLabel("Customer", { exact: true }).fill("Low Pistes");
  await page.getByRole("radio", { name: /^Rebuild/ }).check();
  await page.getByRole("button", { name: "Keep it so" }).click();
  await expect(page.locator(".headline")).toContainText("Low Pistes");
  await expect(page.locator(".headline")).toContainText("Rebuild");
  await expect(page.getByRole("row", { name: /take-in corrected/ })).toContainText("customer: High Pistes > Low Pistes");
});

test("another model says what it loses before it is taken", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(`${demo}/heads/T0409/correct`);
  const was = await page.locator('select[name="model"]').inputValue();
  const others = await page.locator('select[name="model"]').locator("option").evaluateAll((all) => all.map((o) => o.value).filter(Boolean));
  await page.locator('select[name="model"]').selectOption(others.find((o) => o !== was));
  await page.getByRole("button", { name: "Keep it so" }).click();
  await expect(page.getByText(/it loses \d+ readings/)).toBeVisible();
  await page.getByLabel("yes, what this model does not have counts no more").check();
  await page.getByRole("button", { name: "Keep it so" }).click();
  await expect(page.getByRole("row", { name: /take-in corrected/ })).toContainText("model: ");
});

test("a refused head goes back in two forms", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0416/handover`);
  const ends = page.locator('form[action$="/handover/end"]');
  await page.locator("details", { has: ends }).locator("summary").click();
  await ends.getByRole("button").click();
  await expect(page.getByText("in what state does it go back?")).toBeVisible();
  await ends.getByLabel("Because").selectOption("refused");
  await ends.locator('[name="state"]').fill("in parts in a box");
  await ends.locator('[name="why"]').fill("too dear");
  await ends.getByRole("button").click();
  await page.locator('[name="handed_to"]').fill("its owner");
  await page.locator('form[action$="/handover"] button').click();
  await page.goto(`${demo}/`);
  await expect(page.locator("main")).not.toContainText("T0416");
});

test("a comeback is mended at no charge, and neither yes nor no is no answer", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0413/judge`);
  await page.getByRole("button", { name: /Decide, keep as plan/ }).click();
  await page.goto(`${demo}/heads/T0413/quote`);
  await page.getByText("Goodwill: the shop takes it on itself").click();
  await page.getByLabel("Percent of what it must have").fill("100");
  await page.getByRole("button", { name: "Write the quote" }).click();
  await expect(page.getByText("say why the shop takes it on itself")).toBeVisible();
  await expect(page.getByLabel("Percent of what it must have")).toHaveValue("100");
  await page.getByLabel("Why", { exact: true }).fill("our cut was deep");
  await page.getByLabel("Charged to").fill("work: cut seats");
  await page.getByRole("button", { name: "Write the quote" }).click();
  await expect(page.locator(".quote").first()).toContainText("At no charge: our cut was deep. Charged to work: cut seats.");
  await expect(page.locator(".quote").first()).toContainText("must alone 0.00");
  await page.getByLabel("Who says so").fill("the grower");
  await page.getByLabel("How", { exact: true }).fill("at the counter");
  await page.getByRole("button", { name: "Record the answer" }).click();
  await expect(page.getByText("say yes or no")).toBeVisible();
  await page.getByLabel("yes to what it must have").check();
  await page.getByLabel("Who says so").fill("the grower");
  await page.getByLabel("How", { exact: true }).fill("at the counter");
  await page.getByRole("button", { name: "Record the answer" }).click();
  await expect(page.getByText("Frozen.")).toBeVisible();
});

test("an ended link says whom to ask", async ({ page, demo }) => {
  const answer = await page.goto(`${demo}/q/ABCDEFGHIJKLMNOPQRSTUVWXYZ`);
  expect(answer.status()).toBe(404);
  await expect(page.getByRole("heading", { name: "This link has ended" })).toBeVisible();
});

test("each open line of the final check leads to where it is settled", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0415/check`);
  const lines = await page.locator(".gate tr.open a").evaluateAll((all) => all.map((a) => a.getAttribute("href")));
  expect(lines.length).toBeGreaterThan(0);
  for (const href of [...new Set(lines)]) {
    const answer = await page.goto(demo + href);
    expect(answer.status(), href).toBe(200);
  }
});

test("a delivery comes in parts", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/parts`);
  const order = page.locator(".sheet", { hasText: "24 x Ostrel spring" });
  await order.getByLabel("how many Ostrel spring came").fill("10");
  await order.getByLabel("Ostrel spring measures").fill("as ordered");
  await order.getByRole("button", { name: "Book in" }).click();
  const rest = page.locator(".sheet", { hasText: "14 x Ostrel spring" });
  await expect(rest).toContainText("by Odo");
  await rest.getByText("Another day, or call it off").click();
  await rest.getByRole("button", { name: "Call it off" }).click();
  await expect(page.getByText("say why it is called off")).toBeVisible();
  await page.locator(".sheet", { hasText: "14 x Ostrel spring" }).getByLabel("why").fill("found in the drawer");
  await page.locator(".sheet", { hasText: "14 x Ostrel spring" }).getByRole("button", { name: "Call it off" }).click();
  await expect(page.getByText(/called off\s[\s\S]*: found in the drawer/)).toBeVisible();
});

test("where is my head: by telephone however it is written, and what the note says", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0409/intake`);
  await page.getByLabel("a note on this job").fill("");
  await page.getByRole("button", { name: "Keep the note" }).click();
  await expect(page.getByText("what is to be remembered?")).toBeVisible();
  await page.getByLabel("a note on this job").fill("called, wants it before the season");
  await page.getByLabel("on the floor too").check();
  await page.getByRole("button", { name: "Keep the note" }).click();
  await expect(page.locator(".note")).toContainText("called, wants it before the season Maren");
  await page.goto(`${demo}/`);
  await expect(page.locator(".hung", { hasText: "T0409" })).toContainText("wants it before the season");
  await page.goto(`${demo}/heads/T0409`);
  await page.locator(".headline a").first().click();
  await page.getByLabel("Telephone").fill("+49 (0)171 / 234 56-78");
  const kept = page.waitForResponse((r) => r.request().method() === "POST");
  await page.getByRole("button", { name: /^Keep/ }).first().click();
  await kept;
  await page.goto(`${demo}/`);
  await page.keyboard.press("/");
  await page.keyboard.type("0171 2345678");
  await page.keyboard.press("Enter");
  await expect(page.locator(".hits tr, .headline .tag").filter({ hasText: "T0409" }).first()).toBeVisible();
});
