// Every page for everybody: nothing runs off a screen of any width, and axe finds nothing.
// The pages are those of the mux, so that a new one cannot be forgotten.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { faults } from "./axe.js";
import { expect, signIn, test } from "./program.js";

const mux = readFileSync(join(import.meta.dirname, "..", "web", "web.go"), "utf8") + readFileSync(join(import.meta.dirname, "..", "web", "week", "week.go"), "utf8");
const known = { tag: "T0414", code: "guide.bore", position: "1E1", machine: "1", part: "valve.face", seq: "1", name: "shims", id: "1" };
const files = /\.(json|pdf|csv|xml|zip|ics|xlsx)|\{file\}|\{photos\}|\/photos\/\{id\}|logo\.jpg|\/live|\/q\/|\/healthz|\/favicon|\/week\/order|symptoms|take-in\/model|models\/drawn|\/gauge\//;

function pages() {
  const out = [];
  let prefix = "";
  for (const line of mux.split("\n")) {
    const route = line.match(/r\.Route\("([^"]+)", func/);
    if (route) prefix = route[1];
    if (/^\t\}\)$/.test(line)) prefix = "";
    if (/func Routes\(/.test(line)) prefix = "/week";
    const get = line.match(/r\.Get\("([^"]+)"/);
    if (!get || !/s\.Handle/.test(line)) continue;
    const nested = /^\t\t/.test(line) && prefix;
    const path = (nested ? prefix : "") + get[1].replace(/(.)\/$/, "$1");
    if (files.test(path) || ["/first", "/sign-in"].includes(path)) continue;
    out.push(path.replace(/\{(\w+)\}/g, (_, n) => known[n] ?? "1").replace(/(.)\/$/, "$1"));
  }
  return [...new Set(out)];
}

test("the pages are found", () => expect(pages().length).toBeGreaterThan(45));

test.describe.configure({ mode: "parallel" });

// On a phone axe looks at the pages that are opened there.
const often = /^\/$|sweep|judge|\/plan|\/work|\/check|\/week$|\/parts|\/face$|springs/;

// Who is looked for, at which widths, and at which of them axe looks too: each page is opened once and
// drawn at every width. The owner's pages, the most, are looked at in two halves side by side.
for (const [who, widths, axe, part, of] of [
  ["Runa", [1280, 768, 320], 1280, 0, 2], ["Runa", [1280, 768, 320], 1280, 1, 2], ["Odo", [1024, 390], 390, 0, 1],
  ["Ilka", [768], 0, 0, 1], ["Maren", [1280], 0, 0, 1],
]) {
  test(`nothing runs off the screen, nothing is unreachable: ${who} at ${widths.join(", ")}, ${part + 1} of ${of}`, async ({ page, demo }) => {
    test.setTimeout(400_000);
    await signIn(page, demo, who);
    const wide = [];
    const found = [];
    for (const path of pages().filter((_, i) => i % of === part)) {
      const answer = await page.goto(demo + path, { waitUntil: "domcontentloaded" });
      if (answer.status() >= 400) continue; // somebody else's
      for (const width of widths) {
        await page.setViewportSize({ width, height: 800 });
        const over = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
        if (over > 0) wide.push(`${path} at ${width}: ${over} px`);
        if (width !== axe || width < 800 && !often.test(path)) continue;
        found.push(...(await faults(page)));
      }
    }
    expect({ wide, found }).toEqual({ wide: [], found: [] });
  });
}

test("in a dark shop the bench has dark paper, and everything on it can be read", async ({ page, demo }) => {
  test.setTimeout(240_000);
  await page.emulateMedia({ colorScheme: "dark" });
  await signIn(page, demo, "Odo");
  const found = [];
  for (const path of ["/", "/heads/T0401/sweep/guide.bore", "/heads/T0401/judge", "/heads/T0401/ways", "/heads/T0402/work/6", "/heads/T0402/check", "/heads/T0402/map", "/heads/T0402/face", "/heads/T0402/springs", "/heads/T0401/at/1E1", "/heads/T0402/tray", "/heads/T0401/findings/seat.condition", "/week", "/parts"]) {
    await page.goto(demo + path);
    expect(await page.evaluate(() => getComputedStyle(document.body).backgroundColor), path).toBe("rgb(20, 25, 31)");
    found.push(...(await faults(page)));
  }
  expect(found).toEqual([]);
  await page.goto(demo + "/heads/T0402/report"); // a report is paper
  expect(await page.evaluate(() => getComputedStyle(document.body).backgroundColor)).not.toBe("rgb(20, 25, 31)");
});
