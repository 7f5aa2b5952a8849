// The money of a job to its end: a deposit, a bill, two payments, a credit, and the month.
import { readFileSync } from "node:fs";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { expect, signIn, test } from "./program.js";

test("a bill with a deposit and two payments, credited and written anew", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0406/handover`);
  await page.getByRole("link", { name: "Bill and payment" }).click();
  const sums = page.locator(".sums");
  const pay = async (sum, how, note) => {
    await page.getByLabel("Sum").fill(sum);
    await page.getByLabel("How").selectOption(how);
    await page.getByLabel("About it").fill(note);
    await page.getByRole("button", { name: "Paid", exact: true }).click();
  };
  await pay("", "cash", "deposit");
  await expect(page.getByText("a sum like 120.00")).toBeVisible();
  await expect(page.getByLabel("About it")).toHaveValue("deposit");
  await pay("50", "cash", "deposit");
  await expect(sums).toContainText("paid ahead -50.00");

  const total = await page.locator("form[action$='/issue'] tr", { hasText: "Total" }).locator(".fig").textContent();
  await page.getByRole("button", { name: "Issue the bill" }).click();
  await expect(sums).toContainText(`billed ${total}`);
  const open = async () => Number((await sums.locator("p", { hasText: "open" }).locator(".fig").textContent()));
  expect(await open()).toBeCloseTo(Number(total) - 50, 2);
  await expect(page.locator(".account tbody tr").first()).toContainText("-0001");
  await pay("100", "transfer", "");
  await pay((Number(total) - 150).toFixed(2), "card", "");
  expect(await open()).toBe(0);

  const [number] = (await page.locator(".sheet b.fig").filter({ hasText: "-0001" }).textContent()).match(/\S+/);
  const pdf = await (await page.request.get(`${demo}/heads/T0406/bill/${number}.pdf`)).body();
  const doc = await getDocument({ data: new Uint8Array(pdf) }).promise;
  const text = (await (await doc.getPage(1)).getTextContent()).items.map((i) => i.str).join(" ");
  expect(text).toContain(`Bill ${number}`);
  expect(text).toContain("Wash and scrape");
  expect(text).toContain(total);

  await page.getByText("Credit it", { exact: true }).click();
  await page.getByRole("button", { name: "Credit it whole" }).click();
  await expect(page.getByText("say why it is credited")).toBeVisible();
  await page.getByLabel(`why ${number} is credited`).fill("to the wrong address");
  await page.getByRole("button", { name: "Credit it whole" }).click();
  await expect(page.getByText("Credited by")).toBeVisible();
  await expect(sums).toContainText("billed 0.00");
  await page.getByRole("button", { name: "Issue the bill" }).click();
  expect(await open()).toBe(0);

  await page.goto(`${demo}/customers`);
  await page.getByRole("link", { name: "Bills of the month" }).click();
  await expect(page.locator("main")).toContainText(`billed ${total}`);
  await expect(page.locator("main")).toContainText("Nothing is open.");
  const coming = page.waitForEvent("download");
  await page.getByRole("link", { name: "CSV for the books" }).click();
  const rows = readFileSync(await (await coming).path(), "utf8").trim().split("\n");
  expect(rows[0]).toContain("net,tax_percent,tax,gross,currency");
  expect(rows.filter((r) => r.includes(",credit,"))).toHaveLength(1);
  expect(rows.filter((r) => r.includes(",payment,"))).toHaveLength(3);
});
