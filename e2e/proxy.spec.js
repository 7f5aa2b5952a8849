// The program behind a real nginx with https, as docs/operations.md has it.
import { execFileSync, spawn } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { demoFile, expect, signIn, start, test } from "./program.js";

const freePort = () => new Promise((found) => {
  const s = createServer().listen(0, "127.0.0.1", () => {
    const { port } = s.address();
    s.close(() => found(port));
  });
});

test("behind nginx: https, secure cookies, readings of others as they come", async ({ browser }) => {
  const dir = mkdtempSync(join(tmpdir(), "yatai-proxy-"));
  execFileSync("openssl", ["req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", "/CN=localhost",
    "-keyout", join(dir, "shop.key"), "-out", join(dir, "shop.pem")], { stdio: "ignore" });
  const program = start("demo", "--keep", demoFile(), "--trusted-proxy", "127.0.0.1");
  const behind = new URL(await program.address).host;
  const port = await freePort();
  const plain = await freePort();
  const site = readFileSync(join(import.meta.dirname, "..", "deploy", "nginx.conf"), "utf8")
    .replace("listen 443 ssl", `listen 127.0.0.1:${port} ssl`).replace("127.0.0.1:8417", behind)
    .replace("listen 80;", `listen 127.0.0.1:${plain};`).replace("/var/log/nginx/yatai.log", join(dir, "access.log"))
    .replace("/etc/ssl/certs/shop.pem", join(dir, "shop.pem")).replace("/etc/ssl/private/shop.key", join(dir, "shop.key"));
  const temp = ["client_body", "proxy", "fastcgi", "uwsgi", "scgi"].map((n) => `${n}_temp_path ${dir}/${n};`).join(" ");
  writeFileSync(join(dir, "nginx.conf"), `daemon off; worker_processes 1; pid ${dir}/pid; error_log ${dir}/error.log;
    events {} http { access_log off; ${temp} ${site} }`);
  const nginx = spawn("/usr/sbin/nginx", ["-e", join(dir, "error.log"), "-c", join(dir, "nginx.conf")], { stdio: "inherit" });
  const base = `https://127.0.0.1:${port}`;
  try {
    await expect.poll(() => fetch(base).then(() => 1, (e) => (e.cause?.code === "ECONNREFUSED" ? 0 : 1))).toBe(1);
    const context = await browser.newContext({ ignoreHTTPSErrors: true });
    const page = await context.newPage();
    await signIn(page, base, "Ilka");
    const [cookie] = (await context.cookies()).filter((c) => c.name === "yatai");
    expect(cookie.secure).toBe(true);
    const answer = await page.goto(base + "/heads/T0407/sweep/valve.margin");
    expect(answer.headers()["strict-transport-security"]).toContain("max-age");

    const other = await (await browser.newContext({ ignoreHTTPSErrors: true })).newPage();
    await signIn(other, base, "Odo");
    await other.goto(base + "/heads/T0407/sweep/valve.margin");
    await page.locator('input[data-key="1I1"]').fill("1.91");
    await page.keyboard.press("Enter");
    await expect(other.locator('input[data-key="1I1"]')).toHaveValue("1.91");

    const sent = await page.request.get(`http://127.0.0.1:${plain}/parts`, { maxRedirects: 0 });
    expect(sent.status()).toBe(301);
    expect(sent.headers().location).toBe("https://127.0.0.1/parts");
    await page.goto(base + "/q/ABCDEFGHIJKLMNOPQRSTUVWXYZ");
    const written = () => readFileSync(join(dir, "access.log"), "utf8"); // after the answer has gone
    await expect.poll(written).toContain("/q/...");
    const log = written();
    expect(log).not.toContain("ABCDEFGH");
  } finally {
    nginx.kill("SIGTERM");
    await program.stop();
  }
});
