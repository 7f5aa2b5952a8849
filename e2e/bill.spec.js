// The money of a job to its end: a deposit, a bill, two payments, a credit, and the month.
import { readdirSync, readFileSync } from "node:fs";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { validateXML } from "xmllint-wasm";
import { expect, signIn, test } from "./program.js";

/** mistakesOf names what is wrong with an electronic invoice by the norm's own schema, which lies in norm/. */
async function mistakesOf(invoice) {
  const main = "CrossIndustryInvoice.xsd";
  const file = (fileName) => ({ fileName, contents: readFileSync(`norm/${fileName}`, "utf8") });
  const said = await validateXML({
    xml: [{ fileName: "bill.xml", contents: invoice }],
    schema: [file(main)],
    preload: readdirSync("norm").filter((name) => name !== main).map(file),
  });
  return said.errors.map((e) => e.message);
}

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
  await expect(page.locator(".account tbody tr").first()).toContainText(/-00[0-9][0-9]/);
  await pay("100", "transfer", "");
  await pay((Number(total) - 150).toFixed(2), "card", "");
  expect(await open()).toBe(0);

  const [number] = (await page.locator(".sheet b.fig").filter({ hasText: /^[0-9]{4}-[0-9]{4}/ }).first().textContent()).match(/\S+/);
  const pdf = await (await page.request.get(`${demo}/heads/T0406/bill/${number}.pdf`)).body();
  const doc = await getDocument({ data: new Uint8Array(pdf) }).promise;
  const text = (await (await doc.getPage(1)).getTextContent()).items.map((i) => i.str).join(" ");
  expect(text).toContain(`Bill ${number}`);
  expect(text).toContain("Wash and scrape");
  expect(text).toContain(total);

  const electronic = async (of) => (await page.request.get(`${demo}/heads/T0406/bill/${of}.xml`)).text();
  const invoice = await electronic(number);
  expect(await mistakesOf(invoice)).toEqual([]);
  expect(await mistakesOf(invoice.replaceAll("ram:GrandTotalAmount", "ram:Total"))).not.toEqual([]);
  expect(invoice).toContain(`<ram:GrandTotalAmount>${total.trim()}</ram:GrandTotalAmount>`);

  await page.getByText("Credit it", { exact: true }).click();
  await page.getByRole("button", { name: "Credit it whole" }).click();
  await expect(page.getByText("say why it is credited")).toBeVisible();
  await page.getByLabel(`why ${number} is credited`).fill("to the wrong address");
  await page.getByRole("button", { name: "Credit it whole" }).click();
  await expect(page.getByText("Credited by")).toBeVisible();
  await expect(sums).toContainText("billed 0.00");
  const credit = await page.locator(".sheet b.fig").filter({ hasText: /^[0-9]{4}-[0-9]{4}/ }).nth(1).textContent();
  const back = await electronic(credit);
  expect(await mistakesOf(back)).toEqual([]);
  expect(back).toContain("<ram:TypeCode>381</ram:TypeCode>");
  expect(back).toContain(`<ram:GrandTotalAmount>${total.trim()}</ram:GrandTotalAmount>`);
  await page.getByRole("button", { name: "Issue the bill" }).click();
  expect(await open()).toBe(0);

  await page.goto(`${demo}/customers`);
  await page.getByRole("link", { name: "Bills of the month" }).click();
  await expect(page.locator("main")).toContainText(`billed ${total}`);
  await expect(page.locator("h2", { hasText: "Open" }).locator("xpath=following-sibling::*[1]")).not.toContainText("T0406");
  const coming = page.waitForEvent("download");
  await page.getByRole("link", { name: "CSV for the books" }).click();
  const rows = readFileSync(await (await coming).path(), "utf8").trim().split("\n");
  expect(rows[0]).toContain('Net,"Tax, %",Tax,Gross,Currency');
  expect(rows.filter((r) => r.includes(",credit,"))).toHaveLength(1);
  expect(rows.filter((r) => r.includes(",payment,") && !r.includes("T0428"))).toHaveLength(3);
});

test("a line is given under warranty: the bill says so, and asks for nothing", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0406/bill`);
  const form = page.locator("form[action$='/issue']");
  for (const old of await page.getByText("Credit it", { exact: true }).all()) { // of another test
    await old.click();
    await page.getByLabel(/why \S+ is credited/).fill("for this test");
    await page.getByRole("button", { name: "Credit it whole" }).click();
  }
  const total = async () => Number(await form.locator("tr", { hasText: "Total" }).locator(".fig").textContent());
  const before = await total();
  const cents = Number(await form.locator("td.fig").first().textContent());
  const line = form.locator("tr", { has: page.getByRole("combobox") }).first();
  await form.getByText("Nothing is asked for a line").click();
  await line.getByRole("combobox").selectOption("warranty");
  await expect(form.locator("tr", { hasText: "Warranty: " })).toBeVisible();
  expect(await total()).toBeLessThan(before - cents);
  await form.getByRole("button", { name: "Issue the bill" }).click();
  await expect(form.getByText("say why the shop asks nothing for it")).toBeVisible();
  await expect(line.getByRole("combobox")).toHaveValue("warranty");
  const asked = await total();
  await form.getByLabel("Because").fill("it came loose after a month");
  await form.getByRole("button", { name: "Issue the bill" }).click();
  await expect(page.locator(".sums")).toContainText(`billed ${asked.toFixed(2)}`);
  await expect(page.locator(".account tbody tr", { hasText: "warranty" })).toHaveCount(1);
  await page.goto(`${demo}/bills`);
  await expect(page.locator("main")).toContainText(`given under warranty, before tax ${cents.toFixed(2)}`);
});

test("why a customer is charged no tax is kept, with what has to be said of it, and taken away", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/customers?q=Mossfield`);
  await page.getByRole("link", { name: "Mossfield Growers" }).click();
  const tax = page.locator("select[name=taxed]");
  const why = page.getByLabel("Why they are charged none");
  const keep = () => page.getByRole("button", { name: "Keep it" }).click();
  await tax.selectOption("exempt");
  await keep();
  await expect(page.getByText("a bill without tax has to say why")).toBeVisible();
  await why.fill("grown for seed");
  await keep();
  await expect(why).toHaveValue("grown for seed");
  await tax.selectOption("reverse charge");
  await keep();
  await expect(page.getByText("who owes the tax themselves is known by their tax number")).toBeVisible();
  await page.getByLabel("Their tax number").fill("ATU12345678");
  await keep();
  await expect(tax).toHaveValue("reverse charge");
  await tax.selectOption("");
  await why.fill("");
  await keep();
  await expect(tax).toHaveValue("");
});
