// The week: what waits for what, what if, whose turn it is.
import { demoShop, expect, signIn, test } from "./program.js";

test("the lead plans the week: a head is made urgent, and what a longer job would cost is known before", async ({ page }) => {
  const program = demoShop(); // of its own: the order of all heads changes
  const demo = await program.address;
  await signIn(page, demo, "Odo");
  await page.getByRole("link", { name: "Week" }).click();
  await expect(page.getByRole("heading", { name: "Heads, in the order they are planned" })).toBeVisible();
  const rows = page.locator(".weekheads tbody tr");
  const order = () => rows.locator("td:first-child a.fig").allTextContents();
  const before = await order();
  expect(before.length).toBeGreaterThan(8);
  const drawn = await page.locator("svg.week a.bar").count();
  expect(drawn).toBeGreaterThan(15);

  // What if? The plan itself stays as it is.
  const task = page.getByLabel("this takes longer");
  const last = await page.locator("details", { hasText: "The plan as a list" }).locator("tbody tr").last().locator("td").nth(2).textContent();
  await task.selectOption({ label: await task.locator("option", { hasText: last }).last().textContent() });
  await page.getByLabel("minutes more").fill("an hour");
  await page.getByRole("button", { name: "Work it out" }).first().click();
  await expect(page.getByText("a whole number, like 60 or -30")).toBeVisible();
  await expect(page.getByLabel("minutes more")).toHaveValue("an hour");
  await page.getByLabel("minutes more").fill("600");
  await page.getByRole("button", { name: "Work it out" }).first().click();
  await expect(page.locator("#whatif tbody tr").first()).toBeVisible();
  await expect(page.locator("#whatif tbody tr").first()).toContainText("was ");

  // Somebody is ill; a rush job comes in.
  const ill = page.getByLabel("somebody is away");
  await ill.selectOption("Ilka");
  await page.getByLabel("days away").fill("10");
  await page.locator("form", { has: ill }).getByRole("button").click();
  await expect(page.locator("#whatif tbody tr").first()).toBeVisible();
  const like = page.getByLabel("a rush job comes in, like");
  await like.selectOption({ index: 1 });
  await page.getByRole("button", { name: "When would it be done?" }).click();
  await expect(page.getByText("Taken before all others it would be done")).toBeVisible();

  // By person: nobody is at two things, and each has a row.
  await page.getByRole("link", { name: "By person" }).click();
  for (const name of ["Ilka", "Neve", "Odo"]) await expect(page.locator("svg.week text.place", { hasText: name })).toHaveCount(1);
  await page.goto(demo + "/week/today");
  await expect(page.getByRole("heading", { name: "Ilka" })).toBeVisible();
  await page.goto(demo + "/week/figures");
  await expect(page.getByRole("heading", { name: "Load of people" })).toBeVisible();
  await page.goto(demo + "/week");

  // The last in turn is made urgent.
  const tag = before.at(-1);
  await page.getByLabel(`urgency of ${tag}`).fill("12");
  await rows.filter({ hasText: tag }).getByRole("button", { name: "Set" }).click();
  await expect(page.getByText("from 0 to 9")).toBeVisible();
  await page.getByLabel(`urgency of ${tag}`).fill("5");
  await rows.filter({ hasText: tag }).getByRole("button", { name: "Set" }).click();
  await expect(rows.first()).toContainText(tag);
  expect((await order()).slice(1)).toEqual(before.slice(0, -1));
  await page.goto(`${demo}/heads/${tag}/intake`);
  await expect(page.getByText("urgency set")).toBeVisible();

  // How good the order is, is said with proof.
  await page.goto(demo + "/week");
  await expect(page.getByText(/No order of the heads is less late than|within .* of the best possible|Every promise is kept/)).toBeVisible();
  await program.stop();
});

test("a bar of the week leads to its work sheet; a technician looks and does not plan", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(demo + "/week");
  await expect(page.getByRole("button", { name: "Set" })).toHaveCount(0);
  const bar = page.locator("svg.week a.bar:not(.open)", { hasText: /T0402/ }).first();
  await bar.focus();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/heads\/T0402\/work\/\d+$/);
  await page.goto(demo + "/week/stations");
  await expect(page.getByText("The owner changes stations")).toBeVisible();
});

test("a bar is put to another time by the keyboard and by pulling: what it means is seen before it is taken", async ({ page }) => {
  const program = demoShop();
  const demo = await program.address;
  await signIn(page, demo, "Odo");
  await page.goto(demo + "/week");
  await expect(page.locator("svg.week")).toBeVisible();

  // by the keyboard: the surfacer's bar of an ordered head, two steps later
  const bar = page.locator('svg.week a.bar:not(.open):not(.running)[data-bar^="T0402/"]').last();
  const id = await bar.getAttribute("data-bar");
  const mine = page.locator(`svg.week a[data-bar="${id}"]`);
  const start0 = Number(await mine.getAttribute("data-start"));
  await mine.focus();
  await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Shift+ArrowRight");
  await expect(page.locator(".weeksaid")).toContainText("Enter looks at what it means");
  await page.keyboard.press("Escape");
  await expect(page.locator(".weeksaid")).toHaveText("");
  await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /put to another time/ })).toBeVisible();
  await expect(page.getByText("It is held back until then")).toBeVisible();
  await page.getByRole("link", { name: "Leave it" }).click();
  expect(Math.abs(Number(await mine.getAttribute("data-start")) - start0)).toBeLessThan(120); // nothing was moved: the plan goes on with the clock

  // by pulling it to the right, and then it is taken
  const box = await mine.locator("rect").first().boundingBox();
  await page.mouse.move(box.x + 3, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByText("The drawing shows the week as it would be.")).toBeVisible();
  await page.getByRole("button", { name: "Move it" }).click();
  await expect(page.getByRole("heading", { name: /put to another time/ })).toHaveCount(0);
  const start1 = Number(await mine.getAttribute("data-start"));
  expect(start1).toBeGreaterThan(start0);
  await expect(mine.locator("title")).toContainText("held back by hand until");

  // and back again: it is not held any more
  await page.locator('select[name="move"]').selectOption(id);
  await page.locator('input[name="to"]').fill(new Date(start0 * 1000 - new Date().getTimezoneOffset() * 60000).toISOString().slice(0, 16));
  await page.getByRole("button", { name: "Look at it" }).click();
  await page.getByRole("button", { name: "Move it" }).click();
  expect(Number(await mine.getAttribute("data-start"))).toBeLessThan(start1);
  await expect(mine.locator("title")).not.toContainText("held back by hand");
  await program.stop();
});
