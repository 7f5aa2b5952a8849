// The shell at each size: one line of header, what a page is for near the top, targets for a finger, nothing
// that has focus under what sticks.
import { expect, signIn, test } from "./program.js";

const sizes = [[390, 844, 260], [820, 1180, 260], [1024, 768, 300], [1280, 800, 320]];
const pages = ["/heads/T0401/judge", "/heads/T0401/measure", "/heads/T0401/map", "/heads/T0402/work", "/heads/T0402/check", "/heads/T0401/quote", "/heads/T0401/face", "/heads/T0401/ways", "/heads/T0401/photos", "/week", "/parts"];

// begins is how far down the first thing is that is the page's own.
const begins = (page) => page.evaluate(() => {
  const own = [...document.querySelectorAll("#main h1, #main h2, #main h3, #main table, #main p, #main svg, #main label, #main li")]
    .filter((e) => !e.closest(".headline, .rail, .suspects, .subtabs, .trouble, .htmx-indicator") && e.getBoundingClientRect().height > 2);
  return Math.round(Math.min(...own.map((e) => e.getBoundingClientRect().top + scrollY)));
});

for (const [width, height, most] of sizes) {
  test(`at ${width} a page begins in the first ${most} points, under one line of header`, async ({ page, demo }) => {
    await page.setViewportSize({ width, height });
    await signIn(page, demo, "Odo");
    const late = [];
    for (const path of pages) {
      await page.goto(demo + path);
      const top = await begins(page);
      if (top > most) late.push(`${path}: ${top}`);
      expect((await page.locator("header.top").boundingBox()).height, path).toBeLessThan(52);
    }
    expect(late).toEqual([]);
  });
}

test("a sweep of eight valves fits a tablet, under one line of what is in hand", async ({ page, demo }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await signIn(page, demo, "Ilka");
  await page.goto(demo + "/heads/T0401/sweep/guide.bore");
  const last = await page.locator(".sweeptable tbody tr").last().boundingBox();
  expect(last.y + last.height).toBeLessThan(768);
  const hand = page.locator(".toolbox > summary");
  await expect(hand).toContainText("as received");
  await expect(page.locator("select[name=tool]")).toBeHidden();
  await hand.click();
  const other = await page.locator("select[name=tool]").locator("option").last().textContent();
  await page.locator("select[name=tool]").selectOption(other);
  await expect(page.locator("#in-hand")).toHaveText(other);
});

test("on a telephone the menu comes in from the side, by touch and by key, and the route card stands at its step", async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/heads/T0402/check");
  const step = await page.locator(".rail [aria-current]").boundingBox();
  expect(step.x).toBeGreaterThan(0);
  expect(step.x + step.width).toBeLessThan(391);
  await expect(page.getByRole("link", { name: "Parts", exact: true })).toBeHidden();
  await page.getByRole("button", { name: "Menu" }).click();
  await expect(page.getByRole("link", { name: "Parts", exact: true })).toBeVisible();
  await expect(page.locator("#menu")).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("link", { name: "Parts", exact: true })).toBeHidden();
  await page.getByRole("button", { name: "Menu" }).focus();
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Parts", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Shim box" })).toBeVisible();
  await page.getByRole("link", { name: "Find a head" }).click();
  await page.getByRole("textbox", { name: "Tag, customer or model" }).fill("t0409");
  await page.getByRole("button", { name: "Find", exact: true }).click();
  await expect(page.locator(".headline .tag")).toHaveText("T0409");
});

test("what has focus is never under the bar at the thumb", async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, demo, "Odo");
  for (const path of ["/heads/T0401/judge", "/heads/T0401/findings/valve.face", "/heads/T0407/sweep/valve.margin"]) {
    await page.goto(demo + path);
    await expect(page.locator(".thumb")).toBeVisible();
    for (let i = 0; i < 40; i++) {
      await page.keyboard.press("Tab");
      const covered = await page.evaluate(() => {
        const at = document.activeElement;
        if (!at || at === document.body || at.closest(".thumb, header, #menu")) return "";
        const r = at.getBoundingClientRect();
        const bar = document.querySelector(".thumb").getBoundingClientRect();
        return r.height && r.top >= bar.top && r.bottom <= bar.bottom && bar.top < innerHeight ? at.outerHTML.slice(0, 120) : "";
      });
      expect(covered, path).toBe("");
    }
  }
});

test("without scripts the menu stands open, and every place is reached", async ({ browser, demo }) => {
  const page = await (await browser.newContext({ javaScriptEnabled: false, viewport: { width: 390, height: 844 } })).newPage();
  await signIn(page, demo, "Odo");
  await page.getByRole("link", { name: "Parts", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Shim box" })).toBeVisible();
});
