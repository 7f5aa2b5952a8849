// From plan to hand-over: a quote answered on a telephone, a declined line, a supplement, a
// work sheet whose proof fails, the gate, files and labels.
import jsQR from "jsqr";
import { PNG } from "pngjs";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { expect, signIn, test } from "./program.js";

const textOf = async (bytes) => {
  const doc = await getDocument({ data: new Uint8Array(bytes), useSystemFonts: false, isEvalSupported: false }).promise;
  let text = "";
  for (let i = 1; i <= doc.numPages; i++) text += (await (await doc.getPage(i)).getTextContent()).items.map((t) => t.str).join(" ") + " ";
  return text.replace(/\s+/g, " ");
};

test("a quote is sent, answered on a phone with a declined line, and the work follows", async ({ page, demo, browser }) => {
  test.setTimeout(150_000);
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0413/judge`);
  await page.getByRole("button", { name: /Decide, keep as plan/ }).click();
  await page.goto(`${demo}/heads/T0413/quote`);
  await page.getByRole("button", { name: "Write the quote" }).click();
  await expect(page.locator(".quote")).toContainText("stem: bent");
  await page.getByLabel("Send to").fill("");
  await page.getByRole("button", { name: "Send it" }).click();
  await expect(page.getByText("where does it go?")).toBeVisible();
  await page.getByLabel("Send to").fill("leat@example.invalid");
  await page.getByRole("button", { name: "Send it" }).click();
  await page.goto(`${demo}/outbox`);
  const body = await page.locator(".mail pre").first().textContent();
  const token = body.match(/\/q\/([A-Z0-9]+)/)[1];

  const phone = await browser.newPage({ viewport: { width: 390, height: 844 }, isMobile: true });
  await phone.goto(`${demo}/q/${token}`);
  await expect(phone.getByRole("heading", { name: /^Your answer, please, by / })).toBeVisible();
  await expect(phone.locator("form")).toContainText(/What it must have: \d+\.\d\d EUR\s+with \d+\.\d\d tax/);
  await phone.getByText("What we found").click();
  await expect(phone.getByRole("img", { name: "map of the face" })).toBeVisible();
  await phone.getByText("Ways to go about it").click();
  await expect(phone.getByRole("row", { name: /Renew what wears/ })).toBeVisible();
  expect(await phone.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  await phone.getByRole("button", { name: /^Yes: do the must lines/ }).click();
  await expect(phone.getByText("who says so?")).toBeVisible();
  const boxes = phone.getByRole("checkbox");
  const n = await boxes.count();
  expect(n).toBeGreaterThan(0);
  if (n > 1) await boxes.first().check();
  await phone.getByLabel("Your name").fill("L. Leat");
  await phone.getByRole("button", { name: /^Yes: do the must lines/ }).click();
  await expect(phone.getByText("L. Leat answered on")).toBeVisible();
  await expect(phone.getByRole("button")).toHaveCount(0);
  const pdf = await phone.request.get(`${demo}/q/${token}/quote.pdf`);
  const text = await textOf(await pdf.body());
  expect(text).toContain("Quote 1 for tag T0413");
  expect(text).toContain("Answered by L. Leat");
  expect(text).toMatch(/Total, EUR \d+\.\d\d/);
  expect((await phone.request.get(`${demo}/q/${token.slice(0, -1)}${token.endsWith("A") ? "B" : "A"}`)).status()).toBe(404);
  await phone.close();

  await page.goto(`${demo}/heads/T0413/quote`);
  await expect(page.locator(".quote")).toContainText("Answered by L. Leat");
  await expect(page.locator(".quote tr", { hasText: /no\s*$/ }).first()).toBeVisible(); // a line was declined
  await page.goto(`${demo}/heads/T0413/judge`);
  await page.getByRole("button", { name: "Decide and order the work" }).click();

  // found more: a thread, which nobody approved
  await page.getByText("Add an operation").click();
  await page.getByRole("combobox", { name: /^Operation/ }).selectOption("thread_insert");
  await page.getByLabel("Because").fill("plug thread pulled");
  await page.getByRole("button", { name: "Add it where it belongs" }).click();
  await expect(page.locator(".ops")).toContainText("Thread inserts");
  await page.getByRole("link", { name: "Thread inserts" }).click();
  await expect(page.locator(".worksheet")).toContainText("first finish");
  await page.goto(`${demo}/heads/T0413/quote`);
  await page.getByRole("button", { name: /or a supplement/ }).click();
  const supplement = page.locator(".quote", { hasText: "Supplement 2" });
  await expect(supplement).toContainText("Thread inserts");
  await supplement.getByLabel("yes to what it must have").check();
  await supplement.getByLabel("Who says so").fill("L. Leat");
  await supplement.getByLabel("How").fill("by telephone");
  await supplement.getByRole("button", { name: "Record the answer" }).click();
  await expect(page.getByText("by telephone, heard by Odo")).toBeVisible();
});

test("an earlier day is offered for a surcharge, the customer takes it, and the head goes before all others", async ({ page, demo, browser }) => {
  await signIn(page, demo, "Runa");
  await page.goto(`${demo}/week/stations`); // a shop in which one waits for the other
  const hours = page.getByLabel("hours of final check");
  const usual = await hours.inputValue();
  await hours.fill("Thu 7:30-8:00");
  await page.getByRole("button", { name: /Keep/ }).first().click();
  await page.goto(`${demo}/heads/T0412/judge`);
  await page.getByRole("button", { name: /Decide, keep as plan/ }).click();
  await expect(page.locator(".decide")).toContainText("0 of");
  await page.goto(`${demo}/heads/T0412/quote`);
  await page.getByRole("checkbox", { name: /Offer an earlier day too/ }).check();
  await page.getByRole("button", { name: "Write the quote" }).click();
  await expect(page.locator(".quote")).toContainText("An earlier day");
  await page.getByLabel("Send to").fill("first@example.invalid");
  await page.locator("input[name=follow]").check();
  await page.getByRole("button", { name: "Send it" }).click();
  await page.goto(`${demo}/outbox`);
  const token = (await page.locator(".mail pre").first().textContent()).match(/\/q\/([A-Z0-9]+)/)[1];

  const phone = await browser.newPage({ viewport: { width: 390, height: 844 }, isMobile: true });
  await phone.goto(`${demo}/q/${token}`);
  await expect(phone.getByRole("heading", { name: "Sooner: for a surcharge" })).toBeVisible();
  await expect(phone.locator("main")).toContainText(/done by \d+ \w+, before others; held until \d+ \w+, 12:00/);
  await phone.getByRole("checkbox", { name: /An earlier day/ }).check();
  await phone.getByLabel("Your name").fill("F. First");
  await phone.getByRole("button", { name: /^Yes: do the must lines/ }).click();
  await expect(phone.getByText("F. First answered on")).toBeVisible();
  await phone.close();

  await page.goto(`${demo}/week`);
  await expect(page.locator(".weekheads tbody tr").first()).toContainText("T0412");
  await page.goto(`${demo}/week/stations`);
  await page.getByLabel("hours of final check").fill(usual);
  await page.getByRole("button", { name: /Keep/ }).first().click();
});

test("a proof outside its target stops the job and asks the lead", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/T0402/work/4`);
  await expect(page.locator(".setout")).toContainText("bore 6.0");
  const size = await page.locator(".setout .do").evaluate((e) => parseFloat(getComputedStyle(e).fontSize));
  expect(size).toBeGreaterThan(30); // read from two metres
  await page.getByRole("button", { name: "Finish", exact: true }).click();
  await expect(page.getByText("read what proves it")).toBeVisible();
  await page.getByLabel("proof of 2E1").fill("6.071");
  await page.getByRole("button", { name: "Finish", exact: true }).click();
  await expect(page.locator(".refused")).toContainText("2E1 reads 6.071");
  await page.goto(`${demo}/?waiting=lead`);
  await expect(page.locator(".hung", { hasText: "T0402" })).toContainText("the lead: 2E1 reads 6.071");
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/T0402/work/4`);
  await page.getByLabel("how it goes on").fill("another guide, cut to 6.019");
  await page.getByRole("button", { name: "Go on" }).click();
  await page.getByLabel("proof of 2E1").fill("6.019");
  await page.getByRole("button", { name: "Finish", exact: true }).click();
  await expect(page.locator(".ops tr.done", { hasText: "New guides" })).toBeVisible();
});

test("a pressure test that fails is written down as it was: the leak is placed, mended and tested again", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  const head = `${demo}/heads/T0414`;
  await page.goto(`${head}/judge`);
  await page.getByRole("button", { name: "Decide and order the work" }).click();
  await page.getByRole("button", { name: "Start" }).first().click(); // washed first
  await page.getByRole("button", { name: "Finish" }).first().click();
  await page.getByRole("button", { name: "Start" }).first().click();
  const record = page.locator("form.recordform");
  for (const [field, value] of [["pressure", "2bar"], ["water", "60C"], ["minutes", "20"], ["leaks", "1"]]) await record.locator(`input[name$="/${field}"]`).fill(value);
  await record.getByRole("button", { name: "Write it down" }).click();
  await page.getByRole("button", { name: "Finish: it failed" }).click();
  await expect(page.locator(".ops tr", { hasText: "Pressure test" }).first()).toContainText("done, failed");
  await expect(page.locator(".ops tr.waiting", { hasText: "Pressure test again" })).toHaveCount(1);
  await page.goto(`${head}/map`);
  await page.locator('input[name="grade"][value="leak"]').check();
  await page.getByLabel("Along, mm").fill("60");
  await page.getByLabel("Across, mm").fill("40");
  await page.getByRole("button", { name: "Place it" }).click();
  await page.goto(`${head}/work`);
  const found = page.getByRole("region", { name: "found by the work" });
  await found.getByRole("combobox").selectOption("leave");
  await found.getByRole("button", { name: "Put it on the route" }).click();
  await expect(found).toContainText("say why it may be left");
  const before = await page.locator(".ops tr").count();
  await found.getByRole("combobox").selectOption({ index: 0 });
  await found.getByRole("button", { name: "Put it on the route" }).click();
  await expect(found).toHaveCount(0);
  await expect.poll(() => page.locator(".ops tr").count()).toBeGreaterThan(before); // the page may still be on its way
  const route = await page.locator(".ops tr").allInnerTexts();
  const [mend, again] = [/added by Odo: found at work/, /^\S*\s*Pressure test again/].map((what) => route.findIndex((line) => what.test(line)));
  expect(mend).toBeGreaterThan(0);
  expect(again).toBeGreaterThan(mend);
});

test("a refused head goes back in a few presses, and the floor says so", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0410/handover`);
  await page.getByText("It goes back without its work").click();
  await page.getByRole("button", { name: "End it here" }).click();
  await expect(page.getByText("in what state does it go back?")).toBeVisible();
  await page.getByLabel("What it is about").fill("another head is cheaper");
  await page.getByLabel("It goes back", { exact: true }).fill("whole, as it came");
  await page.getByLabel("Owed for what was done").fill("45.00");
  await page.getByRole("button", { name: "End it here" }).click();
  await expect(page.getByText("Goes back without its work (refused): another head is cheaper")).toBeVisible();
  await page.goto(`${demo}/`);
  await expect(page.locator(".hung", { hasText: "T0410" })).toContainText("to be collected, refused");
  await page.goto(`${demo}/heads/T0410/handover`);
  await page.getByLabel("Who takes it").fill("its owner");
  await page.getByRole("button", { name: "Hand it over" }).click();
  await expect(page.getByText("Handed to its owner")).toBeVisible();
});

test("the report, the readings and the labels leave as files", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  const get = async (name) => {
    const r = await page.request.get(`${demo}/heads/T0406/files/${name}`);
    expect(r.status(), name).toBe(200);
    return r;
  };
  const report = await textOf(await (await get("report.pdf")).body());
  for (const text of ["Head report, tag T0406", "What stayed", "Ticks when cold", "Final check passed"]) expect(report).toContain(text);
  const first = await (await getDocument({ data: new Uint8Array(await (await get("report.pdf")).body()), useSystemFonts: false, isEvalSupported: false }).promise).getPage(1);
  const roles = JSON.stringify(await first.getStructTree()); // for a reader aloud
  for (const role of ["H1", "H2", "Figure", "Table", "TH"]) expect(roles).toContain(`"role":"${role}"`);
  expect(roles).toContain("map of the face: 1I1 sound.");
  const csv = (await (await get("readings.csv")).text()).trim().split("\n");
  const json = await (await get("readings.json")).json();
  expect(csv.length - 1).toBe(json.readings.length);
  expect(json.readings[0].value_nm).toBeGreaterThan(1_000_000);
  expect((await (await get("readings.xlsx")).body()).subarray(0, 2).toString()).toBe("PK");
  expect(await textOf(await (await get("labels.pdf")).body())).toContain("T0406 tray");
  await page.setViewportSize({ width: 700, height: 400 });
  await page.goto(`${demo}/heads/T0406/files/label-head.svg`);
  const shot = PNG.sync.read(await page.screenshot());
  const code = jsQR(new Uint8ClampedArray(shot.data), shot.width, shot.height);
  expect(code?.data).toContain("/heads/T0406");
});

test("a head's visits say until when it lasts: on its page, where it is decided, and as a reminder", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0428/earlier`);
  await expect(page.locator("figure svg.wear")).toHaveCount(3);
  await expect(page.locator("#wearing")).toContainText(/Valve recession 4E1 in \d+ to \d+ h/);
  const listed = await page.locator("table.worn tbody tr").count();
  await page.getByRole("link", { name: /^All \d+ figures$/ }).click();
  await expect(page).toHaveURL(/all=yes/);
  expect(await page.locator("table.worn tbody tr").count()).toBeGreaterThan(listed);
  await page.getByRole("button", { name: "Set the reminder" }).click();
  await expect(page.getByText(/look at it: Valve recession 4E1 past its limit/)).toBeVisible();
  await page.goto(`${demo}/heads/T0406/judge`);
  await expect(page.locator("#wearing")).toContainText("the rate of its visits");
});

test("a comeback is compared with its earlier visit; the calendar has the promises", async ({ page, demo }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/T0406/earlier`);
  await expect(page.getByRole("heading", { name: /Visits of this head:\s+T0408/ })).toBeVisible();
  await expect(page.getByRole("columnheader", { name: "Per 1000 h" })).toBeVisible();
  await page.goto(`${demo}/follow-up`);
  const at = await page.getByRole("link", { name: "calendar file" }).getAttribute("href");
  expect(await (await page.request.get(demo + at)).text()).toContain("SUMMARY:T0401 promised");
});

test("parts: one is ordered for a head, measured when it comes, refused when it is wrong", async ({ page, demo }) => {
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/parts`);
  const item = page.locator("details.item", { hasText: "Ostrel pushrod 270.40" });
  await item.locator("summary").click();
  await page.getByLabel("order how many of Ostrel pushrod 270.40").fill("2");
  await page.getByLabel("for tag, Ostrel pushrod 270.40").fill("T0414");
  await item.getByRole("button", { name: "Order" }).click();
  const order = page.locator(".sheet", { hasText: "2 x Ostrel pushrod 270.40" });
  await order.getByLabel("Ostrel pushrod 270.40 measures").fill("270.90");
  await order.getByRole("button", { name: "Book in" }).click();
  await expect(page.getByText("not what was ordered")).toBeVisible();
  await order.getByLabel("Ostrel pushrod 270.40 measures").fill("270.401");
  await order.getByRole("button", { name: "Book in" }).click();
  await expect(item.locator("summary")).toContainText("6");
});

test("two heads of a pair are one quote: one link, one sum, one answer", async ({ page, demo, browser }) => {
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/take-in`);
  await page.getByRole("combobox", { name: "Customer" }).fill("Weir Rowing Club");
  await page.getByLabel("Machine or engine").fill("Launch");
  await page.locator("main select[name=model]").selectOption({ index: 1 });
  await page.getByLabel(/marks, of several/).fill("port");
  await page.getByLabel("Rebuild").check();
  await page.getByLabel("The story").fill("both run hot");
  await page.getByRole("button", { name: "Take it in, give it a tag" }).click();
  const first = page.url().match(/T\d+/)[0];
  await page.goto(`${demo}/heads/${first}/intake`);
  await page.getByRole("link", { name: "Another head came with it" }).click();
  await expect(page.getByLabel("Came with tag")).toHaveValue(first);
  await expect(page.getByLabel(/marks, of several/)).toHaveValue("");
  await page.getByLabel(/marks, of several/).fill("starboard");
  await page.getByRole("button", { name: "Take it in, give it a tag" }).click();
  await expect(page).not.toHaveURL(/take-in/);
  const second = page.url().match(/T\d+/)[0];
  for (const [tag, line] of [[first, "Fetched = 10.00"], [second, "Fetched = 10.00\ncould: Painted = 20.00"]]) {
    await page.goto(`${demo}/heads/${tag}/quote`);
    await page.getByText("Lines of our own").click();
    await page.getByLabel("One to a line").fill(line);
    await page.getByRole("button", { name: "Write the quote" }).click();
    await expect(page.locator(".quote")).toContainText("Fetched");
  }
  await page.getByRole("checkbox", { name: first }).check();
  await page.getByLabel("Send to").fill("coach@example.invalid");
  await page.getByRole("button", { name: "Send it" }).click();
  await expect(page.locator(".quote .hint")).toContainText(`One quote with ${first} under one link`);
  await page.goto(`${demo}/outbox`);
  const token = (await page.locator(".mail pre").first().textContent()).match(/\/q\/([A-Z0-9]+)/)[1];

  const phone = await browser.newPage({ viewport: { width: 390, height: 844 }, isMobile: true });
  await phone.goto(`${demo}/q/${token}`);
  await expect(phone.getByRole("heading", { level: 1 })).toContainText(`${first}, ${second}`);
  await expect(phone.getByRole("checkbox")).toHaveCount(1);
  await phone.getByRole("checkbox").check();
  await phone.getByLabel("Your name").fill("The coach");
  await phone.getByRole("button", { name: /^Yes: do the must lines/ }).click();
  await expect(phone.getByText("The coach answered on")).toBeVisible();
  const agreed = (await phone.locator(".totals").textContent()).match(/Agreed:\s+(\d+\.\d\d)/)[1];
  expect(await textOf(await (await phone.request.get(`${demo}/q/${token}/quote.pdf`)).body())).toContain(`Total, EUR ${agreed}`);
  await phone.close();
  for (const tag of [first, second]) {
    await page.goto(`${demo}/heads/${tag}/quote`);
    await expect(page.locator(".quote").first()).toContainText("Answered by The coach");
  }
});
