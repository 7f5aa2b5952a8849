// Starts the real program on a port of its own, with the demo or an empty shop.
import { spawn } from "node:child_process";
import { copyFileSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test as base, expect } from "@playwright/test";

export const binary = process.env.YATAI ?? join(import.meta.dirname, "..", "yatai");

export function start(...args) {
  const at = args.includes("--addr") ? [] : ["--addr", "127.0.0.1:0"];
  const child = spawn(binary, [...args, ...at, "--tries", "1000", "--quiet"], { stdio: ["ignore", "pipe", "inherit"] });
  const address = new Promise((found, lost) => {
    let said = "";
    child.stdout.on("data", (d) => {
      said += d;
      const m = said.match(/at (http:\S+)/);
      if (m) found(m[1]);
    });
    child.on("exit", (code) => lost(new Error(`the program ended with ${code}`)));
  });
  return { address, stop: () => new Promise((done) => (child.once("exit", done), child.kill("SIGTERM"))) };
}

const folder = () => mkdtempSync(join(tmpdir(), "yatai-"));

// A file of the demo's shop: a copy of the one that prepare.js filled once.
export function demoFile() {
  const file = join(folder(), "shop.db");
  if (process.env.YATAI_FILLED) copyFileSync(process.env.YATAI_FILLED, file);
  return file;
}

export const demoShop = () => start("demo", "--keep", demoFile());

export const emptyShop = () => start("serve", "--create", "--db", join(folder(), "shop.db"));

// Every file of tests has its own demo, and no other file changes it; every page listens for errors in
// the browser.
// A press is over when what it asked for is swapped in: nobody looks or goes on before.
const swapped = (page) => page.waitForFunction(() => !document.querySelector("#working.htmx-request")).catch(() => {}); // the page has left
let waits = false;
function waitForSwaps(page) {
  if (waits) return;
  waits = true;
  const locator = Object.getPrototypeOf(page.locator("body"));
  const { click } = locator;
  locator.click = async function (...how) {
    await click.apply(this, how);
    await swapped(this.page());
  };
}

export const test = base.extend({
  demos: [async ({}, use) => {
    let file, program;
    await use(async (of) => {
      if (of !== file) {
        await program?.stop();
        file = of;
        program = demoShop();
      }
      return program.address;
    });
    await program?.stop();
  }, { scope: "worker" }],
  demo: async ({ demos }, use, info) => use(await demos(info.file)),
  page: async ({ page }, use) => {
    waitForSwaps(page);
    const errors = [];
    page.on("pageerror", (e) => errors.push(e.message));
    // an aborted request is a question to the planner that a newer one replaced; a bare event is
    // the live stream that the shop's death, or leaving the page, cut
    page.on("console", (m) => m.type() === "error" && !/status of 4\d\d|ERR_|htmx:(sendAbort|sendError|afterRequest)|^\[object Event\]$/.test(m.text()) && errors.push(m.text()));
    await use(page);
    expect(errors).toEqual([]);
  },
});
export { expect };

export async function signIn(page, base, name) {
  await page.goto(base + "/sign-in");
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Password").fill("tarn-street-1");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "Floor" })).toBeVisible();
}
