// A tool turns out to have been off: what else it has read is found, reminders are set, letters written.
import { expect, signIn, test } from "./program.js";

test("what a tool has touched is found, and those who have to know are told", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(`${demo}/reference/tools/1`);
  await page.getByRole("link", { name: "What else did it touch?" }).click();
  await expect(page.getByRole("heading", { level: 2, name: /heads, 13 of them left/ })).toBeVisible();
  const rows = page.locator("main tbody tr");
  await expect(rows.first()).toContainText("left"); // those that have left come first
  await expect(rows.filter({ hasText: "T0408" })).toContainText("left");

  await page.getByRole("button", { name: "Set and write them" }).click();
  await expect(page.locator("main")).toContainText("tick the heads it is about");
  await page.getByRole("checkbox", { name: "T0408" }).check();
  await page.getByLabel("A test once more").selectOption({ label: "Measure and judge" });
  await page.getByRole("button", { name: "Set and write them" }).click();
  await expect(page.locator("main")).toContainText("none of the ticked heads is in work"); // it has left
  await page.getByRole("checkbox", { name: "T0402" }).check();
  await page.getByRole("button", { name: "Set and write them" }).click();
  await expect(page.getByRole("status")).toContainText("Set and written");
  await page.goto(`${demo}/heads/T0402/work`);
  await expect(page.locator("main")).toContainText("may have been wrong");
  await page.goto(`${demo}/recall?what=tool+1`);
  await page.getByRole("checkbox", { name: "T0408" }).check();
  await page.getByRole("checkbox", { name: "T0405" }).check();
  await page.getByLabel("What is to be done").fill("read the guides again");
  await page.getByRole("button", { name: "Set and write them" }).click();
  await expect(page.locator("main")).toContainText("a date like 2031-05-20");
  await expect(page.getByRole("checkbox", { name: "T0408" })).toBeChecked();
  await expect(page.getByLabel("What is to be done")).toHaveValue("read the guides again");
  await page.getByLabel("On", { exact: true }).fill("2031-05-20");
  await page.getByLabel(/By mail, from the outbox/).fill("Good day {customer}: please call us about your {machine}, our tag {tag}.");
  await page.getByRole("button", { name: "Set and write them" }).click();
  await expect(page.getByRole("status")).toContainText("call them"); // the demo's customers have no address for mail

  await page.goto(`${demo}/follow-up`);
  await expect(page.getByRole("row", { name: /read the guides again/ })).toHaveCount(2);
  await page.goto(`${demo}/recall?what=work+seat_cut&from=2031-01-01`);
  await expect(page.locator("main")).toContainText("has touched no head in this time");
});

test("what was cut with a cutter is found, however it was spelt", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(`${demo}/heads/T0402/work/4`);
  const said = page.getByLabel("what it is done with");
  await page.getByRole("button", { name: "Note it" }).click();
  await expect(page.locator("main")).toContainText("say what it is done with");
  for (const text of ["cutter C3", "Cutter  c3", "mill, 400 1/min"]) {
    await said.fill(text);
    await page.getByRole("button", { name: "Note it" }).click();
    await expect(page.locator(".donewith")).toContainText(text.replace("  ", " "));
  }
  await page.goto(`${demo}/recall`);
  await expect(page.locator("optgroup[label^=Cutters] option")).toHaveCount(2);
  await page.getByLabel("What may have been wrong").selectOption({ label: "Cutter c3" });
  await page.getByRole("button", { name: "Look it up" }).click();
  await expect(page.getByRole("row", { name: /T0402/ })).toContainText("2 operations");
  await page.goto(`${demo}/people`);
  await page.getByRole("link", { name: "Ilka" }).click();
  await page.getByRole("link", { name: "What did they touch?" }).click();
  await expect(page.getByRole("heading", { level: 2, name: /^Ilka: \d+ heads/ })).toBeVisible();
});

test("the lead sees what a year's comebacks cost, and what they are charged to", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/follow-up`);
  await page.getByRole("link", { name: "What quality costs" }).click();
  const head = page.getByRole("row", { name: /T0406/ });
  await expect(head.getByRole("link")).toHaveCount(2);
  const sum = async (table) => {
    const cells = await page.locator("table", { hasText: table }).locator("tbody tr").evaluateAll(
      (rows) => rows.map((r) => [...r.querySelectorAll("td.fig")].slice(-1)[0].textContent.trim()));
    return cells.reduce((n, c) => n + Number(c), 0);
  };
  const told = await page.locator(".sums p", { hasText: "work and parts" }).locator(".fig").textContent();
  expect(await sum("Times")).toBeCloseTo(Number(told.split(" ")[0]), 2);
});
