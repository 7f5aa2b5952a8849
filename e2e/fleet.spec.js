// A customer's machines: what the counter sees of them, and what the customer does by a link.
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { expect, signIn, test } from "./program.js";

test("a customer sees their machines by a link until it is ended, on a telephone, as PDF and as a table", async ({ page, demo, browser }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/customers?q=Dale`);
  await page.getByRole("link", { name: "Dale Nurseries" }).click();
  await page.getByRole("link", { name: "Their machines" }).click();
  const machine = page.locator("section", { hasText: "Bore 2" });
  await expect(machine.getByRole("row")).toHaveCount(5);
  await expect(machine).toContainText(/T0428 4E1 Valve recession: in \d+ to \d+ h, look at it by/);
  await page.getByRole("button", { name: "Make the link" }).click();
  const link = await page.getByLabel("The address for them").inputValue();

  const own = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await own.newPage();
  await phone.goto(link);
  await expect(phone.getByRole("heading", { name: "Your machines" })).toBeVisible();
  await expect(phone.locator("section")).toContainText("Valve recession");
  await expect(phone.locator("a[href^='/heads/']")).toHaveCount(0);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const table = await (await own.request.get(`${link}/fleet.csv`)).text();
  expect(table.split("\n").filter((l) => l.startsWith("Bore 2,"))).toHaveLength(4);
  const file = await (await own.request.get(`${link}/fleet.pdf`)).body();
  const doc = await getDocument({ data: new Uint8Array(file) }).promise;
  const text = (await (await doc.getPage(1)).getTextContent()).items.map((i) => i.str).join(" ");
  expect(text).toContain("Machines of Dale Nurseries");
  expect(text).toContain("Valve recession");

  await page.goto(`${demo}/customers?q=Dale`);
  await page.getByRole("link", { name: "Dale Nurseries" }).click();
  await page.getByRole("link", { name: "Their machines" }).click();
  await expect(page.getByLabel("The address for them")).toHaveCount(0);
  await page.getByRole("button", { name: "End it" }).click();
  await phone.goto(link);
  await expect(phone.getByRole("heading", { name: "This link has ended" })).toBeVisible();
  expect((await own.request.get(`${link}/fleet.csv`)).status()).toBe(404);
  await own.close();
});
