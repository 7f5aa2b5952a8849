// What eyes see: parts graded by keyboard, a crack placed by a tap on the map, a photo, a
// mixed box sorted, and a tool's study.
import { expect, signIn, test } from "./program.js";

test("parts are graded with the number keys", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0404/findings/seat.condition`);
  const first = page.getByLabel("grade of 1I1", { exact: true });
  await first.focus();
  await page.keyboard.press("2");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("grade of 1I2", { exact: true })).toBeFocused();
  await page.keyboard.press("7");
  await page.getByRole("button", { name: /the rest is clean/ }).click();
  await expect(page).toHaveURL(/findings\/guide.condition/);
  await page.goto(`${demo}/heads/T0404/findings/seat.condition`);
  await expect(first).toHaveValue("light_pits");
  await expect(page.getByLabel("grade of 6E2", { exact: true })).toHaveValue("clean");
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0404/judge`);
  await expect(page.locator(".finding", { hasText: "Seat: cracked" })).toContainText("New insert");
});

test("a crack is placed by a tap on the map, and shows everywhere", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0404/map`);
  const map = page.locator("svg.headmap.tap");
  const box = await map.boundingBox();
  await page.getByRole("button", { name: "Place it" }).click();
  await expect(page.getByText("what is it?", { exact: true })).toBeVisible();
  await map.click({ position: { x: box.width * 0.5, y: box.height * 0.5 } });
  await expect(page.getByLabel("Along, mm")).not.toHaveValue("");
  await expect(map.locator(".here")).toBeVisible();
  await page.getByLabel("crack", { exact: true }).check();
  await page.getByLabel("Note").last().fill("12 mm, dye holds");
  await page.getByRole("button", { name: "Place it" }).click();
  await expect(page.locator("svg.headmap .k-crack")).toBeVisible();
  await expect(page.getByRole("row", { name: /12 mm, dye holds/ })).toContainText("crack");
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0404/judge`);
  await expect(page.locator(".finding", { hasText: "crack between" }).or(page.locator(".finding", { hasText: "crack at" })).or(page.locator(".finding", { hasText: "Head crack" })).first()).toContainText("Weld or stitch");
  await page.goto(`${demo}/heads/T0404/map?side=cover`);
  await expect(page.getByRole("group", { name: "map of the cover's side" })).toBeVisible();
});

test("a photo is kept, made smaller, and shown to the customer only when told", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0404/photos`);
  const big = await page.evaluate(async () => {
    const c = new OffscreenCanvas(2400, 1200);
    c.getContext("2d").fillRect(10, 10, 900, 300);
    const bytes = new Uint8Array(await (await c.convertToBlob({ type: "image/png" })).arrayBuffer());
    return [...bytes];
  });
  await page.getByLabel("Picture").setInputFiles({ name: "seat.png", mimeType: "image/png", buffer: Buffer.from(big) });
  await page.getByLabel("What it shows").fill("the worst seat");
  await page.getByRole("button", { name: "Keep it" }).click();
  const img = page.getByRole("img", { name: "the worst seat" });
  await expect(img).toBeVisible();
  expect(await img.evaluate((i) => [i.naturalWidth, i.naturalHeight])).toEqual([1600, 800]);
  await page.getByRole("button", { name: "hidden: show to the customer" }).click();
  await expect(page.getByRole("button", { name: "shown to the customer: hide" })).toBeVisible();
});

test("a mixed box is sorted, and says that it is inferred", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0412/tray`);
  await expect(page.getByLabel("1E1 valve")).toHaveValue("unknown");
  await page.getByText("A mixed box").click();
  const rows = [["a", "50", "5.0", "carbon"], ["b", "54", "", "oily"], ["c", "54", "", "dry"], ["d", "50", "4.2", "dry"]];
  for (const [i, [name, head, ring, back]] of rows.entries()) {
    await page.getByLabel(`name of loose valve ${i + 1}`).fill(name);
    await page.getByLabel(`head of loose valve ${i + 1}`).fill(head);
    await page.getByLabel(`ring of loose valve ${i + 1}`).fill(ring);
    await page.getByLabel(`back of loose valve ${i + 1}`).selectOption(back);
  }
  await page.getByRole("button", { name: "Where do they belong?" }).click();
  await expect(page.locator("tr", { has: page.getByLabel("name of loose valve 1") })).toContainText("1E1 inferred");
  await page.getByRole("button", { name: "Write the inferred places down" }).click();
  await expect(page.getByLabel("1E1 valve")).toHaveValue("inferred");
  await expect(page.locator("td", { has: page.getByLabel("1E1 valve") })).toContainText("carbon valve, carbon port");
});

test("a study of a tool gives its doubt, and the owner takes it", async ({ page, demo }) => {
  await signIn(page, demo, "Runa");
  await page.goto(`${demo}/reference/tools/3/study`);
  await page.getByLabel("What is read, and how").fill("stems on the V-block");
  await page.getByLabel("person 1", { exact: true }).fill("Ilka");
  await page.getByLabel("person 2", { exact: true }).fill("Odo");
  for (const [i, off] of [0, 2].entries()) {
    for (let k = 0; k < 5; k++) for (let r = 0; r < 2; r++) await page.locator(`input[name="cell.${i}.${k}.${r}"]`).fill((7.95 + k * 0.01 + (off + r) / 1000).toFixed(3));
  }
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.getByRole("row", { name: /Expanded, k = 2/ })).toContainText("±");
  const ranges = page.locator("svg.zerochart");
  await expect(ranges).toHaveAttribute("aria-label", /none further apart/);
  await page.locator('input[name="cell.1.3.1"]').fill("7.999"); // a slip
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(ranges).toHaveAttribute("aria-label", /chance Odo at 4/);
  await expect(page.locator("main")).toContainText("Further apart: Odo at 4");
  await page.locator('input[name="cell.1.3.1"]').fill("7.983");
  await page.getByRole("button", { name: "Keep it with the tool" }).click();
  await page.locator("summary", { hasText: "stems on the V-block" }).click();
  await page.getByRole("button", { name: /Take ±.* into the register/ }).click();
  await expect(page.getByText("The register took it")).toBeVisible();
});

test("one head in both units: a sweep typed in millimetres on an inch sheet, a CSV dropped on it", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0411/sweep/valve.length`);
  await page.getByLabel("Bare numbers are").selectOption("mm");
  const cell = (key) => page.locator(`input[data-key="${key}"]`);
  await cell("1I1").fill("101.6");
  await cell("1I1").press("Enter");
  await expect(page.locator("#progress")).toContainText("1 of 4");
  await page.getByLabel("Bare numbers are").selectOption("in");
  await cell("1I2").fill("4.0005");
  await cell("1I2").press("Enter");
  await expect(page.locator("#progress")).toContainText("2 of 4");
  await page.evaluate(() => {
    const files = new DataTransfer();
    files.items.add(new File(["1E2,3.9990\n1E1,3.9980\n"], "lengths.csv", { type: "text/csv" }));
    document.getElementById("sweep").dispatchEvent(new DragEvent("drop", { dataTransfer: files, bubbles: true, cancelable: true }));
  });
  await expect(page.locator("#progress")).toContainText("4 of 4");
  const [one, all] = [await page.request.get(`${demo}/heads/T0411/files/readings.json`), {}];
  for (const r of (await one.json()).readings) if (r.characteristic === "valve.length") all[r.position] = r.value_nm;
  expect(all).toEqual({ "1I1": 101_600_000, "1I2": 101_612_700, "1E2": 101_574_600, "1E1": 101_549_200 });
});

test("a tool's label scanned into a sweep takes the tool up", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0416/sweep/valve.recession`);
  await page.locator('input[data-key="1I1"]').fill("TL-7");
  await page.keyboard.press("Enter");
  await expect(page.locator("#net")).toContainText("Taken up: Depth micrometer");
  await expect(page.locator('select[name="tool"]')).toHaveValue("7");
  await page.locator('input[data-key="1I1"]').fill("TL-14");
  await page.keyboard.press("Enter");
  await expect(page.locator("#net")).toContainText("is not a tool for this");
});
