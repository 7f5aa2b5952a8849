// The bench, a work sheet and a customer's page in another language, each in its reader's own.
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { demoShop, expect, signIn, test } from "./program.js";

const speak = async (page, base, language, decimal) => {
  await page.goto(base + "/me");
  await page.locator("select[name=language]").selectOption(language);
  await page.locator("select[name=decimal]").selectOption(decimal);
  await page.locator('form[action="/me/language"] button').click();
};

test("a technician measures in German, and a colleague in English beside", async ({ page, browser }) => {
  const program = demoShop(); // what is read here is in nobody's way
  const demo = await program.address;
  await signIn(page, demo, "Ilka");
  await speak(page, demo, "de", "comma");
  await expect(page.locator("html")).toHaveAttribute("lang", "de");
  await page.goto(demo + "/heads/T0407/measure");
  await expect(page.getByRole("heading", { name: "Durchgänge, wie angeliefert" })).toBeVisible();
  await page.getByRole("link", { name: "Tellerrand", exact: true }).click();
  const cell = page.locator('input[data-key="1I1"]');
  await cell.fill("0.6");
  await page.keyboard.press("Enter");
  await expect(page.locator("#r-1I1")).toContainText(/\d,\d+ mm zu wenig\./);
  await expect(page.locator("#progress")).toContainText("1 von 24");
  await expect(cell).toHaveValue("0.6"); // what was typed stays as it was typed
  await cell.fill("0.7");
  await page.keyboard.press("Enter");
  await cell.fill("blau");
  await page.keyboard.press("Enter");
  await expect(page.locator("#say-1I1")).toContainText("keine Zahl");
  await cell.fill("85");
  await page.keyboard.press("Enter");
  await expect(page.locator("#say-1I1")).toContainText("85 mm ist kein Maß hierfür: es liegt zwischen");
  await cell.fill("0.7");
  await page.keyboard.press("Enter");
  await expect(page.locator("#say-1I1")).toContainText("gelesen war schon 0,6"); // a correction wants its reason

  const other = await browser.newPage();
  await signIn(other, demo, "Odo");
  await other.goto(demo + "/heads/T0407/sweep/valve.margin");
  await expect(other.locator("#r-1I1")).toContainText(/\d\.\d+ mm under\./);
  await other.close();

  await page.goto(demo + "/heads/T0402/work/6");
  await expect(page.getByRole("heading", { name: /Sitze fräsen/ })).toBeVisible();
  await expect(page.locator(".caution")).toContainText("Augenschutz");
  for (const path of ["/heads/T0402/work/6", "/heads/T0403/sweep/guide.bore", "/heads/T0401/findings/valve.face", "/heads/T0404/map", "/heads/T0414/tray"]) {
    for (const width of [320, 1024]) {
      await page.setViewportSize({ width, height: 800 });
      await page.goto(demo + path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth), path + " " + width).toBe(0);
    }
  }
  await speak(page, demo, "en", "point");
  await expect(page.getByRole("link", { name: "Floor" })).toBeVisible();
  await program.stop();
});

test("a customer who reads German gets the page, the PDF and the mail in German, with the reasons", async ({ browser }) => {
  const program = demoShop();
  const base = await program.address;
  const page = await browser.newPage();
  await signIn(page, base, "Odo");
  await page.goto(base + "/heads/T0413");
  await page.goto(base + "/customers");
  const customer = page.getByRole("link", { name: "Lower Leat Water" }).first();
  await customer.click();
  await page.getByLabel("Their page and mail are in").selectOption("de");
  await page.getByRole("button", { name: "Keep it" }).first().click();
  await page.goto(base + "/heads/T0413/judge");
  await page.getByRole("button", { name: /Decide, keep as plan/ }).click();
  await page.goto(base + "/heads/T0413/quote");
  await page.getByRole("button", { name: "Write the quote" }).click();
  await expect(page.locator(".quote")).toContainText("stem: bent"); // the shop reads its own language
  await page.getByLabel("Send to").fill("leat@example.invalid");
  await page.getByRole("button", { name: "Send it" }).click();
  await page.goto(base + "/outbox");
  const mail = await page.locator(".mail").first().textContent();
  expect(mail).toContain("Angebot 1 für Anhänger T0413");
  const token = mail.match(/\/q\/([A-Z0-9]+)/)[1];

  const phone = await browser.newPage({ viewport: { width: 390, height: 844 }, isMobile: true });
  await phone.goto(`${base}/q/${token}`);
  await expect(phone.locator("html")).toHaveAttribute("lang", "de");
  await expect(phone.getByRole("heading", { name: /^Ihre Antwort, bitte, bis / })).toBeVisible();
  await expect(phone.locator("form")).toContainText("Schaft: krumm");
  await expect(phone.locator(".found").first()).toContainText("erlaubt");
  expect(await phone.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  await phone.getByRole("button", { name: /^Ja: / }).click();
  await expect(phone.locator("#say-name")).toContainText("wer sagt das?");
  await phone.getByLabel("Ihr Name").fill("L. Leat");
  await phone.getByRole("button", { name: /^Ja: / }).click();
  await expect(phone.getByText("L. Leat hat am")).toBeVisible();
  const pdf = await (await phone.request.get(`${base}/q/${token}/quote.pdf`)).body();
  const doc = await getDocument({ data: new Uint8Array(pdf), useSystemFonts: false, isEvalSupported: false }).promise;
  let text = "";
  for (let i = 1; i <= doc.numPages; i++) text += (await (await doc.getPage(i)).getTextContent()).items.map((t) => t.str).join(" ");
  expect(text).toContain("Angebot 1 für Anhänger T0413");
  expect(text).toMatch(/Summe, EUR\s+\d+,\d\d/);
  await program.stop();
});
