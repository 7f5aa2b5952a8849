// How the tests and the pictures start Debian's Chromium: its headless shell where that is installed, which
// draws the same pages in two thirds of the time.
import { existsSync } from "node:fs";

const shell = "/usr/bin/chromium-headless-shell";

export const launch = {
  executablePath: process.env.CHROMIUM || (existsSync(shell) ? shell : "/usr/bin/chromium"),
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
};
