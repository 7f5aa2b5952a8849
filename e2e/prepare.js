// Before the tests: the demo is filled once, and every file of tests begins with a copy of it.
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { start } from "./program.js";

export default async function prepare() {
  const file = join(mkdtempSync(join(tmpdir(), "yatai-")), "filled.db");
  const program = start("demo", "--keep", file);
  await program.address;
  await program.stop(); // closed, so that the file is all there is
  process.env.YATAI_FILLED = file;
}
