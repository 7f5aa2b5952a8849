// The bench: what it says back, how fast it can be typed on, what it says of a bad tool.
import { demoShop, expect, signIn, test } from "./program.js";

test("144 guide readings are typed with the number pad alone, and none is lost", async ({ page, demo }) => {
  test.setTimeout(300_000); // some eight hundred key strokes
  await signIn(page, demo, "Ilka");
  await page.goto(demo + "/heads/T0407/sweep/guide.bore");
  await expect(page.locator("input[data-key]")).toHaveCount(144);
  const keys = await page.locator("input[data-key]").evaluateAll((all) => all.filter((i) => !i.dataset.standing).map((i) => i.dataset.key));
  await page.locator(`input[data-key="${keys[0]}"]`).focus();
  const typed = keys.map((_, i) => "9.0" + String(10 + (i % 60)));
  for (const value of typed) {
    await page.keyboard.type(value);
    await page.keyboard.press("Enter");
  }
  await expect(page.locator("#progress")).toContainText("144 of 144");
  await expect(page.locator("td.waiting")).toHaveCount(0);
  const file = await (await page.request.get(`${demo}/heads/T0407/files/readings.json`)).json();
  const kept = Object.fromEntries(file.readings.filter((r) => r.characteristic === "guide.bore").map((r) => [[r.position, r.place, r.direction].join("."), r.typed]));
  expect(keys.map((k) => kept[k])).toEqual(typed);
});

test("an accepted reading is answered by a tone or read back aloud, as this tablet chose", async ({ page, demo }) => {
  await page.addInitScript(() => {
    window.said = [];
    window.speechSynthesis.speak = (u) => window.said.push(u.text);
  });
  await signIn(page, demo, "Ilka");
  await page.goto(demo + "/heads/T0416/sweep/valve.margin");
  const cell = (key) => page.locator(`input[data-key="${key}"]`);
  await cell("1I1").fill("2.41");
  await cell("1I1").press("Enter");
  await expect(page.locator("#progress")).toContainText("1 of");
  expect(await page.evaluate(() => window.said)).toEqual([]); // silent until it is chosen
  await page.getByLabel("Answered by").selectOption("a voice");
  await cell("1I1").fill("0.3");
  await page.getByLabel("A correction, because").fill("typing slip");
  await cell("1I1").press("Enter");
  await expect.poll(() => page.evaluate(() => window.said)).toEqual(["1 I 1, 0.3, out"]);
  await page.reload();
  await expect(page.getByLabel("Answered by")).toHaveValue("voice");
  await page.getByLabel("Answered by").selectOption("a tone");
  await cell("1I1").fill("2.4");
  await page.getByLabel("A correction, because").fill("read again");
  await cell("1I1").press("Enter");
  await expect(page.locator("#sweep")).toHaveAttribute("data-rang", "sound");
});

test("suspect readings show wherever they stand, and go when they are read again", async ({ page }) => {
  const program = demoShop(); // of its own: a tool fails here
  const demo = await program.address;
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/heads/T0414/measure");
  await expect(page.locator(".suspects")).toHaveCount(0);
  await page.goto(demo + "/reference");
  await page.getByRole("link", { name: "Caliper", exact: true }).click();
  await page.getByLabel(/it reads/).fill("25.05");
  await page.getByRole("button", { name: "Record" }).click();
  await page.goto(demo + "/heads/T0414/measure");
  await expect(page.locator(".suspects")).toContainText(/suspect readings? Caliper/);
  await expect(page.locator("circle.suspect").first()).toBeVisible();
  await expect(page.locator("tr", { hasText: "Seat width" })).toContainText("24 suspect");
  await page.goto(demo + "/heads/T0414/judge");
  await expect(page.locator(".suspects")).toContainText(/suspect readings? Caliper/);
  await page.goto(demo + "/heads/T0414/sweep/seat.width");
  await expect(page.locator("td.doubted")).toHaveCount(24);
  await expect(page.locator("#r-1I1")).toContainText("Suspect, read it again");
  await page.goto(demo + "/reference");
  await page.getByRole("link", { name: "Caliper", exact: true }).click();
  await page.getByLabel(/it reads/).fill("25.00");
  await page.getByRole("button", { name: "Record" }).click();
  await page.goto(demo + "/heads/T0414/sweep/seat.width");
  await expect(page.locator("td.doubted")).toHaveCount(24); // a good check afterwards does not clear what was read before the bad one
  await page.getByLabel("A correction, because").fill("read again after the zero check");
  await page.locator('input[data-key="1I1"]').fill("1.62");
  await page.keyboard.press("Enter");
  await expect(page.locator("td.doubted")).toHaveCount(23);
  await expect(page.locator(".suspects")).toContainText("23 suspect readings Caliper");
  await expect(page.locator("#r-1I1")).not.toContainText("Suspect");
  await program.stop();
});

test("two tabs of one sweep, the network gone: each reading arrives once, a correction in the other tab counts", async ({ context, demo }) => {
  const [one, two] = [await context.newPage(), await context.newPage()];
  await signIn(one, demo, "Ilka");
  for (const tab of [one, two]) await tab.goto(demo + "/heads/T0407/sweep/valve.length");
  const type = async (tab, key, value) => {
    await tab.locator(`input[data-key="${key}"]`).fill(value);
    await tab.keyboard.press("Enter");
  };
  await context.setOffline(true);
  await type(one, "1I1", "102.20");
  await type(two, "1I2", "102.21");
  await type(one, "1E1", "102.22");
  await type(two, "1I1", "102.25"); // put right in the other tab, before any answer
  await expect(two.locator("#net")).toContainText("wait");
  await context.setOffline(false);
  for (const tab of [one, two]) { // one of them sends, the other sees it
    await expect(tab.locator("#progress")).toContainText("3 of 24");
    await expect(tab.locator("td.waiting")).toHaveCount(0);
    await expect(tab.locator('input[data-key="1I1"]')).toHaveValue("102.25");
  }
  await two.reload();
  await expect(two.locator("#progress")).toContainText("3 of 24");
  await expect(two.locator("td.waiting")).toHaveCount(0);
  const file = await (await one.request.get(`${demo}/heads/T0407/files/readings.json`)).json();
  const mine = file.readings.filter((r) => r.characteristic === "valve.length");
  const standing = Object.fromEntries(mine.map((r) => [r.position, r.typed]));
  expect(standing).toEqual({ "1I1": "102.25", "1I2": "102.21", "1E1": "102.22" });
  expect(mine.filter((r) => r.position !== "1I1")).toHaveLength(2); // nothing twice
});

test("what was asked for before an answer came does not take its place", async ({ context, demo }) => {
  const [one, two] = [await context.newPage(), await context.newPage()];
  await signIn(one, demo, "Ilka");
  for (const tab of [one, two]) await tab.goto(demo + "/heads/T0407/sweep/valve.head");
  const cell = (tab) => tab.locator('input[data-key="1I1"]');
  let held = 0;
  await two.route("**/sweep/valve.head?*", async (route) => { // the second of two is on its way for long
    const answer = await route.fetch();
    if (++held === 2) await new Promise((done) => setTimeout(done, 3000));
    await route.fulfill({ response: answer });
  });
  await cell(one).fill("40.10");
  await one.keyboard.press("Enter");
  await expect(one.locator("#progress")).toContainText("1 of 24");
  await expect.poll(() => held).toBeGreaterThanOrEqual(2); // the other tab asks what stands: told by the store and by the shop
  await two.getByLabel("A correction, because").fill("typing slip");
  await cell(two).fill("40.15");
  await two.keyboard.press("Enter");
  await expect(cell(two)).toHaveAttribute("data-standing", "40.15");
  await two.waitForTimeout(3500);
  await expect(cell(two)).toHaveAttribute("data-standing", "40.15");
  await expect(cell(one)).toHaveAttribute("data-standing", "40.15");
});

test("what is typed while an answer is on its way stays, in the same field and in the next", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0407/sweep/valve.margin`);
  const [first, second] = [page.locator('input[data-key="2I1"]'), page.locator('input[data-key="2E1"]')];
  let answer;
  const waits = new Promise((resolve) => (answer = resolve));
  await page.route("**/sweep/valve.margin", async (route) => {
    if (route.request().method() !== "POST" || !route.request().postData().includes("nonsense")) return route.continue();
    const response = await route.fetch();
    await waits;
    await route.fulfill({ response });
  });
  await first.fill("nonsense");
  await page.keyboard.press("Enter");
  await first.fill("1.25");
  await second.fill("1.3");
  answer();
  await page.waitForTimeout(400);
  await expect(first).toHaveValue("1.25");
  await expect(second).toHaveValue("1.3");
  await expect(second).toBeFocused(); // nothing takes the focus from what is being typed
  await page.keyboard.press("Enter");
  await first.focus();
  await page.keyboard.press("Enter");
  for (const cell of ["2I1", "2E1"]) await expect(page.locator(`td.standing input[data-key="${cell}"]`)).toBeVisible();
});
