// One real job from take-in to hand-over, by four people, through the real interface.
import { demoFile, emptyShop, expect, signIn, start, test } from "./program.js";

// usual are sound readings of the Brindlow G4, by characteristic.
const usual = {
  "guide.bore": { I: "9.008", E: "9.014" }, "stem.dia": { I: "8.960", E: "8.947" }, "seat.width": { I: "1.6", E: "1.8" },
  "seat.runout": { I: "0.02", E: "2h" }, "valve.recession": { I: "0.60", E: "0.75" }, "valve.margin": { I: "1.4", E: "1.6" },
  "stem.height": { I: "46.20", E: "46.20" }, "spring.height": { I: "38.1", E: "38.1" }, "lash": { I: "0.25 0.28", E: "0.25 0.28" }, "head.thickness": { T: "98.62" }, "face.line": { L: "0.03", X: "0.02 0.03", D: "0.03" },
};
const worn = { "1E1.bottom.A": "9.070", "2E1@valve.recession": "1.30" };

async function sweep(page, code, own = {}) {
  await expect(page.locator("#sweep")).toHaveAttribute("action", new RegExp(code.replace(".", "\\.") + "$"));
  const keys = await page.locator("input[data-key]").evaluateAll((all) => all.map((i) => i.dataset.key));
  for (const key of keys) {
    const kind = code === "face.line" || code === "head.thickness" ? key[0] : key[1];
    await expect(page.locator(`input[data-key="${key}"]`)).toBeFocused();
    await page.keyboard.type(own[key] ?? own[`${key}@${code}`] ?? usual[code][kind]);
    await page.keyboard.press("Enter");
  }
  await expect(page.locator("#progress")).toContainText(`${keys.length} of ${keys.length}`);
}

test("a head comes in, is measured, judged, repaired and handed over", async ({ page, demo }) => {
  test.setTimeout(300_000);
  // the counter takes it in; a mistake keeps what was typed
  await signIn(page, demo, "Maren");
  await page.getByRole("link", { name: "Take in a head", exact: true }).click();
  await page.getByLabel("Customer", { exact: true }).fill("Skelter Quarry");
  await page.getByLabel("Machine or engine").fill("Pump 4");
  await page.getByRole("combobox", { name: /^Model/ }).selectOption("Brindlow G4");
  await expect(page.locator("#life")).toContainText("mended here"); // what heads of it came to
  await page.getByRole("button", { name: "Take it in" }).click();
  await expect(page.getByText("why is it here?")).toBeVisible();
  await expect(page.getByLabel("Customer", { exact: true })).toHaveValue("Skelter Quarry");
  await page.getByLabel("Failed in service").check();
  await page.getByLabel("The story").fill("Smokes <b>and</b> ticks.");
  await page.getByRole("button", { name: "Take it in" }).click();
  await expect(page.locator(".headline")).toContainText("Skelter Quarry");
  const tag = (await page.locator(".headline .tag").textContent()).trim();
  await page.getByRole("link", { name: "Floor", exact: true }).click();
  await expect(page.locator(".station", { hasText: "inspection bench" }).getByText(tag)).toBeVisible();

  // the technician measures everything by keyboard, sweep after sweep
  await signIn(page, demo, "Ilka");
  await page.keyboard.press("/");
  await page.keyboard.type(tag);
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Guide bore", exact: true }).click();
  for (const code of Object.keys(usual)) {
    await sweep(page, code, worn);
    if (code !== "face.line") await page.locator("#next-sweep").click();
  }
  await page.keyboard.press("Escape");
  await page.locator(".rail").getByText("Judge").click();
  await expect(page.getByText(/^\s*2 to decide/)).toBeVisible();
  await expect(page.locator(".finding", { hasText: "Guide clearance" })).toContainText("0.028 mm over");
  await expect(page.getByText("The lead decides.")).toBeVisible();

  // the lead decides: the usual answer is ticked; leaving a finding asks for the reason
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/${tag}/judge`);
  await expect(page.locator(".finding", { hasText: "Guide clearance" }).getByLabel("New guide")).toBeChecked();
  await expect(page.locator(".finding", { hasText: "Guide clearance" })).toContainText("not: Fit a liner: no liner is on the shop's list of parts");
  await page.locator(".finding", { hasText: "recession" }).getByText("other answers").click();
  await page.locator(".finding", { hasText: "recession" }).getByLabel("Leave, because", { exact: true }).check();
  await page.getByRole("button", { name: "Decide and order the work" }).click();
  await expect(page.getByText("say why it may be left")).toBeVisible();
  await page.locator(".finding", { hasText: "recession" }).getByLabel(/why .* is left/).fill("new head is on order");
  for (const box of await page.locator(".beside input").all()) await box.uncheck(); // only what it must have
  await page.getByRole("button", { name: "Decide and order the work" }).click();
  await expect(page.getByRole("heading", { name: "Work order" })).toBeVisible();
  await expect(page.locator(".ops tr")).toHaveCount(11); // the lash is set where the work moved it
  await expect(page.getByText("The customer has not approved anything yet")).toBeVisible();

  // the counter quotes it, and records what the customer said on the telephone
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/${tag}/quote`);
  await page.getByRole("button", { name: "Write the quote" }).click();
  await expect(page.locator(".quote")).toContainText("1E1 guide clearance");
  await page.getByLabel("yes to what it must have").check();
  await page.getByLabel("Who says so").fill("the quarry");
  await page.getByLabel("How").fill("by telephone");
  await page.getByRole("button", { name: "Record the answer" }).click();
  await expect(page.getByText("by telephone, heard by Maren")).toBeVisible();

  // the technician works it off
  await signIn(page, demo, "Ilka");
  await page.goto(`${demo}/heads/${tag}/work`);
  const records = {
    "Pressure test": async () => { for (const [field, value] of [["Pressure", "2bar"], ["Water", "60C"], ["Minutes", "20"], ["Leaks seen", "0"]]) await page.getByLabel(field + " ", { exact: true }).or(page.getByLabel(field, { exact: true })).first().fill(value); },
    "Final wash": async () => { for (const box of await page.getByRole("checkbox").all()) await box.check(); },
    "Assemble": async () => { for (const box of await page.getByRole("checkbox").all()) await box.check(); },
    "Seal test": async () => {
      await page.locator('input[name="baseline"]').fill("84kPa");
      for (const cell of await page.locator('input[name^="rec/"][name$="/vacuum"]').all()) await cell.fill("82 81 82 kPa");
    },
    "Final check": async () => { for (const box of await page.getByRole("checkbox").all()) await box.check(); },
  };
  for (let i = 0; i < 11; i++) {
    await page.getByRole("button", { name: "Start" }).first().click();
    const other = page.getByLabel("the operation you are at"); // at another head
    const finish = page.locator('form[action$="/finish"]').getByRole("button", { name: /^Finish/ }).first(); // what proves it is read later
    const begun = page.locator("main").getByRole("button", { name: /^Finish/ }).first(); // on the work order, or on its sheet
    await expect(other.or(begun).first()).toBeVisible(); // the answer may still be on its way
    if (await other.count()) {
      await other.first().selectOption("pauses");
      await page.getByRole("button", { name: "Start" }).first().click();
      await expect(begun).toBeVisible();
    }
    if (i === 2) {
      await page.goto(`${demo}/?waiting=work`);
      await expect(page.locator(".station", { hasText: "guide bench" }).getByText(tag)).toBeVisible();
      await page.goto(`${demo}/heads/${tag}/work/3`);
      await expect(begun).toBeVisible();
    }
    const sheet = page.locator(".worksheet");
    if (await sheet.count()) {
      const name = (await sheet.locator("h2").textContent()).replace(/^\s*\d+\s*/, "");
      const fill = Object.entries(records).find(([k]) => name.startsWith(k))?.[1];
      if (fill) {
        await fill();
        await page.getByRole("button", { name: "Write it down" }).click();
        await expect(page.getByRole("heading", { name: "Written down" })).toBeVisible();
      }
    }
    const from = page.getByLabel("where the parts came from"); // the stock has not enough of something
    if (await from.count()) {
      await from.fill("from the supplier's van");
    }
    await finish.click();
    const done = page.locator(".ops tr.done").nth(i);
    await expect(done.or(from).first()).toBeVisible();
    if (await from.count()) {
      await from.fill("from the supplier's van");
      await finish.click();
    }
    await expect(page.locator(".ops tr.done")).toHaveCount(i + 1);
  }
  await page.getByRole("link", { name: "Read again after repair", exact: true }).click();
  await page.getByRole("link", { name: "Guide bore", exact: true }).click();
  for (const key of ["1E1.top.A", "1E1.top.B", "1E1.middle.A", "1E1.middle.B", "1E1.bottom.A", "1E1.bottom.B"]) {
    await page.locator(`input[data-key="${key}"]`).fill("9.006");
    await page.keyboard.press("Enter");
  }
  await expect(page.locator("#progress")).toContainText("6 of 48");
  // the new guide's seat was cut: what that changed is read again too
  for (const [code, value] of [["seat.width", "1.7"], ["seat.runout", "0.01"], ["valve.recession", "0.80"], ["stem.height", "46.25"], ["spring.height", "38.2"], ["lash", "0.25 0.28"]]) {
    await page.goto(`${demo}/heads/${tag}/sweep/${code}`);
    await page.locator('input[data-key="1E1"]').fill(value);
    await page.keyboard.press("Enter");
    await expect(page.locator("#progress")).toContainText("1 of 8");
  }

  // the gate refuses until the lead has signed what is still out
  await signIn(page, demo, "Odo");
  await page.goto(`${demo}/heads/${tag}/check`);
  await page.getByRole("button", { name: "Pass the final check" }).click();
  await expect(page.getByText("1 thing not proven yet")).toBeVisible();
  await page.getByLabel(/may pass/).fill("customer knows, until the new head comes");
  await page.getByRole("button", { name: "Sign", exact: true }).click();
  await page.getByLabel("What to watch at refit").fill("Torque in three stages.");
  await page.getByRole("button", { name: "Pass the final check" }).click();

  // the counter hands it over; the report says it all
  await signIn(page, demo, "Maren");
  await page.goto(`${demo}/heads/${tag}/handover`);
  await page.getByLabel("Who takes it").fill("the quarry's driver");
  await page.getByRole("button", { name: "Hand it over" }).click();
  await expect(page.getByText("Handed to the quarry's driver")).toBeVisible();
  await page.getByRole("link", { name: "The report, to print", exact: true }).click();
  for (const text of ["Smokes <b>and</b> ticks.", "customer knows, until the new head comes", "New guide", "Torque in three stages."]) await expect(page.locator("body")).toContainText(text);
  const row = page.locator("tr", { hasText: "1E1" }).filter({ hasText: "Guide clearance" });
  await expect(row).toContainText("0.067 to 0.123");
  await expect(row).toContainText("0.059");
  await page.goto(demo + "/");
  await expect(page.getByText(tag)).toHaveCount(0);
});

test("a head is taken in and measured with the keyboard alone", async ({ page, demo }) => {
  await page.goto(demo + "/sign-in");
  await page.keyboard.type("Odo");
  await page.keyboard.press("Tab");
  await page.keyboard.type("tarn-street-1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Floor" })).toBeVisible();
  const tabTo = async (what) => {
    for (let i = 0; i < 60; i++) {
      await page.keyboard.press("Tab");
      if (await what.evaluate((e) => e === document.activeElement)) return;
    }
    throw new Error("not reached by Tab");
  };
  await tabTo(page.getByRole("link", { name: "Take in a head", exact: true }));
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Customer", { exact: true })).toBeFocused();
  await page.keyboard.type("Keyes");
  await tabTo(page.getByLabel("Machine or engine"));
  await page.keyboard.type("Winch");
  await tabTo(page.getByRole("combobox", { name: /^Model/ }));
  await page.keyboard.type("Brind");
  await tabTo(page.getByLabel("Rebuild"));
  await page.keyboard.press("Space");
  await page.keyboard.press("Enter");
  await expect(page.locator(".headline")).toContainText("Keyes");
  await tabTo(page.getByRole("link", { name: "Valve recession", exact: true }));
  await page.keyboard.press("Enter");
  const cell = (key) => page.locator(`input[data-key="${key}"]`);
  await expect(cell("1I1")).toBeFocused();
  await page.keyboard.type("0.61");
  await page.keyboard.press("Enter");
  await page.keyboard.press("*"); // the same again
  await page.keyboard.press("Enter");
  await page.keyboard.type("0,62");
  await page.keyboard.press("Enter");
  await expect(cell("2E1")).toBeFocused();
  await page.keyboard.type("6.1in");
  await page.keyboard.press("Enter");
  await expect(page.locator("#say-2E1")).toContainText("is no size for this");
  await expect(cell("2E1")).toBeFocused();
  await page.keyboard.type("25 thou");
  await page.keyboard.press("Enter");
  await expect(page.locator("#progress")).toContainText("4 of 8");
  await expect(page.locator("circle.valve.lit")).toHaveAttribute("data-position", "3I1");
  await page.keyboard.press("Backspace");
  await expect(cell("2E1")).toBeFocused();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeHidden();
  await expect(cell("2E1")).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("heading", { name: /Sweeps/ })).toBeVisible();
});

test("the shop dies in mid-sweep: what was typed waits through a reload, and arrives once, in order", async ({ page, context }) => {
  const file = demoFile();
  let program = start("demo", "--keep", file);
  const shop = await program.address;
  await signIn(page, shop, "Ilka");
  await page.goto(shop + "/heads/T0407/sweep/seat.width");
  const type = async (value) => {
    await page.keyboard.type(value);
    await page.keyboard.press("Enter");
  };
  await type("2.1");
  await expect(page.locator("#progress")).toContainText("1 of 24");
  await program.stop();
  for (const value of ["2.2", "2.3", "2.4"]) await type(value);
  await expect(page.locator("#net")).toContainText("3 readings wait");
  program = start("demo", "--keep", file, "--addr", new URL(shop).host);
  await program.address;
  await page.reload();
  await expect(page.locator("#progress")).toContainText("4 of 24");
  await page.reload();
  await expect(page.locator("#progress")).toContainText("4 of 24");
  expect(await page.locator("td.standing input[data-key]").evaluateAll((all) => all.map((i) => i.value))).toEqual(["2.1", "2.2", "2.3", "2.4"]);
  await page.goto(shop + "/heads/T0407/at/1I2");
  await expect(page.getByRole("cell", { name: "seat.width" })).toHaveCount(1);
  await program.stop();
});

test("a column pasted from a spreadsheet fills the sweep; a value that names its place goes there", async ({ page, demo, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, demo, "Ilka");
  await page.goto(demo + "/heads/T0407/sweep/valve.margin");
  const paste = async (text) => {
    await page.evaluate((t) => navigator.clipboard.writeText(t), text);
    await page.keyboard.press("Control+V");
  };
  await paste("2.20\n2.21\n85 thou\n");
  await expect(page.locator("#progress")).toContainText("3 of 24");
  await paste("6E2,2.30\n6E1;2.31\n");
  await expect(page.locator("#progress")).toContainText("5 of 24");
  await expect(page.locator('input[data-key="6E2"]')).toHaveValue("2.30");
  await expect(page.locator('input[data-key="6E1"]')).toHaveValue("2.31");
});

test("a gauge zeroed on a ring: what the dial shows is added to the set size", async ({ page, demo }) => {
  await signIn(page, demo, "Ilka");
  await page.goto(demo + "/heads/T0404/sweep/stem.dia");
  await page.locator("#mode").selectOption("deviation");
  const first = page.locator('input[data-key="1I1.top"]');
  await first.focus();
  await page.keyboard.type("+12");
  await page.keyboard.press("Enter");
  await expect(page.locator("#net")).toContainText("nothing was typed"); // the set size is missing
  await page.getByLabel("Set on, or bar").fill("7.950");
  await first.focus();
  await page.keyboard.press("Enter");
  await expect(first).toHaveValue("7.962");
  await page.goto(demo + "/heads/T0404/at/1I1");
  await expect(page.getByText("7.95 mm +12 divisions of 0.001 mm = 7.962 mm")).toBeVisible();
});

test("an empty shop: the first visit creates the owner, who adds people", async ({ page }) => {
  const program = emptyShop();
  const shop = await program.address;
  await page.goto(shop);
  await page.getByLabel("Name").fill("Vera");
  await page.getByLabel("Password").fill("short");
  await page.getByRole("button", { name: "Open the shop" }).click();
  await expect(page.getByText("10 characters or more")).toBeVisible();
  await page.getByLabel("Password").fill("long-enough-1");
  await page.getByRole("button", { name: "Open the shop" }).click();
  await expect(page.getByText("No head is in the shop")).toBeVisible();
  await page.getByRole("link", { name: "People", exact: true }).click();
  await page.getByLabel("Name", { exact: true }).fill("Tam");
  await page.getByLabel("Password").fill("also-long-enough");
  await page.getByLabel(/PIN/).fill("1357");
  await page.getByLabel("Role").selectOption("technician");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("cell", { name: "Tam" })).toBeVisible();
  await page.getByLabel("Its name").fill("Bench 1");
  await page.getByRole("button", { name: "Enrol this tablet" }).click();
  await page.getByRole("button", { name: "Sign out" }).click();
  await page.getByLabel("Who").selectOption("Tam");
  await page.getByLabel("PIN").fill("1357");
  await page.getByRole("button", { name: "Sign on" }).click();
  await expect(page.locator(".who")).toContainText("Tam");
  await program.stop();
});
