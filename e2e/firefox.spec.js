// The bench's path in the other browser: Debian's Firefox, driven over WebDriver BiDi.
import { expect, test as base } from "@playwright/test";
import puppeteer from "puppeteer-core";
import { demoFile, start } from "./program.js";

const test = base.extend({
  // One Firefox and one demo, which can be stopped and started again at its address.
  bench: async ({}, use) => {
    const file = demoFile();
    let program = start("demo", "--keep", file);
    const shop = await program.address;
    const firefox = await puppeteer.launch({ browser: "firefox", executablePath: process.env.FIREFOX ?? "/usr/bin/firefox-esr", headless: true });
    await use({
      shop,
      firefox,
      stop: () => program.stop(),
      again: async () => {
        program = start("demo", "--keep", file, "--addr", new URL(shop).host);
        await program.address;
      },
    });
    await firefox.close();
    await program.stop();
  },
});

// as opens a page of a browser of its own, signed in.
async function as({ firefox, shop }, name) {
  const context = await firefox.createBrowserContext();
  const page = await context.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(shop + "/sign-in");
  await page.type('input[name="name"]', name);
  await page.type('input[name="password"]', "tarn-street-1");
  await Promise.all([page.waitForNavigation(), page.click('form button:not([type="button"])')]);
  return page;
}

const text = (page, selector) => page.$eval(selector, (e) => e.innerText);
const says = (page, selector) => expect.poll(() => text(page, selector).catch(() => ""), { timeout: 15_000 });
const value = (page, key) => expect.poll(() => page.$eval(`input[data-key="${key}"]`, (e) => e.value), { timeout: 15_000 });

test("Firefox: a sweep is typed, the shop dies and comes back, two people read on", async ({ bench }) => {
  test.setTimeout(180_000);
  const ilka = await as(bench, "Ilka");
  await ilka.goto(bench.shop + "/heads/T0407/sweep/seat.width");
  const type = async (figures) => {
    for (const f of figures) {
      await ilka.keyboard.type(f);
      await ilka.keyboard.press("Enter");
    }
  };
  await ilka.focus('input[data-key="1I1"]');
  await type(["2.1", "2.15"]);
  await says(ilka, "#progress").toContain("2 of 24");

  await bench.stop();
  await type(["2.2", "2.3", "2.4"]);
  await says(ilka, "#net").toContain("3 readings wait");
  await bench.again();
  await ilka.reload();
  await says(ilka, "#progress").toContain("5 of 24");
  const kept = await ilka.$$eval("td.standing input[data-key]", (all) => all.map((i) => i.value));
  expect(kept).toEqual(["2.1", "2.15", "2.2", "2.3", "2.4"]);

  const odo = await as(bench, "Odo");
  await odo.goto(bench.shop + "/heads/T0407/sweep/seat.width");
  await odo.focus('input[data-key="6E2"]');
  await odo.keyboard.type("2.45");
  await odo.keyboard.press("Enter");
  await value(ilka, "6E2").toBe("2.45");
});

test("Firefox: a customer answers on a phone", async ({ bench }) => {
  test.setTimeout(120_000);
  const maren = await as(bench, "Odo");
  await maren.goto(bench.shop + "/heads/T0413/judge");
  await Promise.all([maren.waitForNavigation(), maren.click(".decide button")]);
  await maren.goto(bench.shop + "/heads/T0413/quote");
  await Promise.all([maren.waitForNavigation(), maren.click('form[action$="/quote/make"] button')]);
  await maren.type('input[name="to"]', "leat@example.invalid");
  await Promise.all([maren.waitForNavigation(), maren.click('form[action$="/quote/send"] button')]);
  await maren.goto(bench.shop + "/outbox");
  const token = (await text(maren, ".mail pre")).match(/\/q\/([A-Z0-9]+)/)[1];

  const phone = await (await bench.firefox.createBrowserContext()).newPage();
  await phone.setViewport({ width: 390, height: 844 });
  await phone.goto(`${bench.shop}/q/${token}`);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  await phone.type('input[name="name"]', "L. Leat");
  await Promise.all([phone.waitForNavigation(), phone.click('button[name="must"], form .btn-primary')]);
  await says(phone, "body").toContain("L. Leat answered on");
});
