// What axe finds on the page as it stands: one line a fault. Only what is wrong is worked out, which
// takes a quarter of the time of a whole account.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const source = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

export async function faults(page) {
  await page.evaluate(source);
  return page.evaluate(async () => {
    const { violations } = await globalThis.axe.run(document, { resultTypes: ["violations"], elementRef: false });
    return violations.flatMap((v) => v.nodes.slice(0, 3).map((n) => `${location.pathname} at ${innerWidth}: ${v.id}: ${n.html.slice(0, 140)}`));
  });
}
