// The hands of the bench: a sweep by keyboard, and "/" to find a head anywhere.
// Without this file every form still works as a plain post.

document.addEventListener("keydown", (e) => {
  const typing = e.target.matches("input, textarea, select");
  if (e.key === "/" && !typing) {
    e.preventDefault();
    document.getElementById("find")?.focus();
  }
  if (e.key === "?" && (!typing || e.target.dataset.key)) {
    e.preventDefault();
    document.getElementById("keys")?.showModal();
  }
});

// Where there is little room, lines that open begin closed, and the route card and the tabs stand at
// where one is.
const widths = {};
const narrow = (below) => {
  if (!widths[below]) (widths[below] = matchMedia(`(max-width: ${below}px)`)).addEventListener("change", folds);
  return widths[below].matches;
};
function folds() {
  for (const d of document.querySelectorAll("details.fold")) d.open = !narrow(d.dataset.below ?? 1199) || d.querySelector("[aria-invalid=true]") !== null;
  for (const bar of document.querySelectorAll(".rail, .subtabs, .parts")) {
    const here = bar.querySelector("[aria-current]");
    if (here) bar.scrollLeft = here.offsetLeft - bar.offsetLeft - (bar.clientWidth - here.clientWidth) / 2;
  }
}

// What scrolls inside itself can be scrolled with the keys.
const reachable = () => document.querySelectorAll("main table, main pre, .table-responsive, .weekbox").forEach((t) => {
  if (t.scrollWidth > t.clientWidth + 1 || t.scrollHeight > t.clientHeight + 1 && getComputedStyle(t).overflowY === "auto") t.tabIndex = 0;
  else t.removeAttribute("tabindex");
});
addEventListener("load", reachable);
addEventListener("resize", reachable);
document.addEventListener("htmx:afterSettle", reachable);

// A form or a link of a head's page swaps the page's main part. What the shop refuses is shown as it says
// it; where it does not answer, the page stays, and all that was typed.
const inMain = (e) => e.detail.target?.id === "main";
document.addEventListener("htmx:beforeSwap", (e) => {
  if (!inMain(e) || !/^text\/html/.test(e.detail.xhr.getResponseHeader("Content-Type"))) return;
  e.detail.shouldSwap = true;
  e.detail.isError = false;
});
const lost = () => {
  document.getElementById("lost")?.remove();
  for (const key of Object.keys(sessionStorage)) if (key.startsWith("sent draft ")) sessionStorage.removeItem(key);
  const p = document.createElement("p");
  p.id = "lost";
  p.className = "alert alert-danger";
  p.setAttribute("role", "alert");
  p.textContent = t("The shop does not answer. What you typed is still here: try again.");
  document.getElementById("main").prepend(p);
  p.scrollIntoView({ block: "nearest" });
};
document.addEventListener("htmx:sendError", (e) => inMain(e) && lost());
document.addEventListener("htmx:responseError", (e) => inMain(e) && lost());
document.addEventListener("htmx:afterSettle", (e) => {
  if (!inMain(e)) return;
  begin();
  if (e.detail.boosted && e.detail.requestConfig.verb === "get") document.getElementById("main").focus({ preventScroll: true });
});
// What is swapped in may keep an element of before: it is made ready once.
const ready = new WeakSet();
const once = (element) => element && !ready.has(element) && ready.add(element);

// Readings that wait on this tablet are seen from every page, by whom they were typed.
const here = document.body.dataset.person;
// t says a sentence in the page's language, its %s filled one after the other.
const said = JSON.parse(document.body.dataset.words || "{}");
const t = (sentence, ...args) => (said[sentence] ?? sentence).replace(/%s/g, () => args.shift());

// A page knows when it is its person's no more: somebody else has signed in on this tablet.
const nameOf = (id) => localStorage.getItem("name of " + id) || t("another person");
if (here) {
  localStorage.setItem("name of " + here, document.body.dataset.name ?? "");
  localStorage.setItem("signed in", here);
  addEventListener("storage", (e) => {
    if (e.key !== "signed in" || !e.newValue) return;
    document.getElementById("other")?.remove();
    if (e.newValue === here) return;
    const p = document.createElement("p");
    p.id = "other";
    p.className = "alert alert-danger waits";
    p.setAttribute("role", "alert");
    p.textContent = t("%s has signed in on this tablet. This page is still yours: sign in again before you write on it.", nameOf(e.newValue));
    document.getElementById("main")?.prepend(p);
  });
}

function waits() {
  const waiting = {};
  for (let i = 0; i < localStorage.length; i++) {
    const [, person, path] = localStorage.key(i).match(/^sweep (\d+) (\S+) \S+$/) ?? []; // one reading
    if (!person || path === location.pathname && person === here) continue;
    const sweeps = (waiting[person] ??= {});
    sweeps[path] = (sweeps[path] ?? 0) + 1;
  }
  for (const [person, sweeps] of Object.entries(waiting)) {
    const n = Object.values(sweeps).reduce((sum, n) => sum + n);
    const p = document.createElement("p");
    p.className = "alert alert-danger waits";
    p.setAttribute("role", "status");
    const whose = person === here ? t("you") : nameOf(person);
    p.append(n === 1 ? t("1 reading typed by %s waits on this tablet.", whose) : t("%s readings typed by %s wait on this tablet.", n, whose), " ");
    if (person === here) {
      for (const path of Object.keys(sweeps)) {
        const a = document.createElement("a");
        a.href = path;
        a.textContent = t("Send them: %s", path.split("/")[2]);
        p.append(a, " ");
      }
    } else p.append(t("They are sent when that person signs in here."));
    document.getElementById("main")?.prepend(p);
  }
}

// What was typed into a form is kept on this tablet until it was sent: a lost session, a reload
// or the back button lose nothing. Passwords, PINs and files are not kept.
// A form that was sent, and whose page comes back without a mistake, was taken: its draft goes.
const whose = (form) => [...form.querySelectorAll("input[type=hidden]:not([name=write_id])")].map((f) => f.value).join(" ");
const draftOf = (form) => `draft ${here} ${form.getAttribute("action") ?? location.pathname} ${whose(form)}`;
function drafts() {
  for (const key of Object.keys(sessionStorage)) {
    if (!key.startsWith("sent draft ")) continue;
    if (here && !document.querySelector("[aria-invalid=true]") && !/sign-in/.test(location.pathname)) sessionStorage.removeItem(key.slice("sent ".length));
    sessionStorage.removeItem(key);
  }
  for (const form of document.querySelectorAll('form[method="post"]')) {
    if (!here || form.id === "sweep") continue;
    const fields = () => [...form.elements].filter((f) => f.name && f.name !== "write_id" && !["password", "pin", "now"].includes(f.name) && !["hidden", "submit", "button", "password", "file"].includes(f.type));
    if (!fields().length) continue;
    const kept = sessionStorage.getItem(draftOf(form));
    if (kept && !document.querySelector("[aria-invalid=true]")) {
      const was = JSON.parse(kept);
      let back = false;
      for (const f of fields()) {
        const v = was[f.name + (["checkbox", "radio"].includes(f.type) ? "=" + f.value : "")];
        if (v === undefined) continue;
        if (typeof v === "boolean") [f.checked, back] = [v, back || f.checked !== v];
        else if (f.value !== v) [f.value, back] = [v, true];
      }
      if (back) {
        const p = document.createElement("p");
        p.className = "text-body-secondary draft";
        p.setAttribute("role", "status");
        p.textContent = t("What you typed here before is back, not kept yet.") + " ";
        const forget = document.createElement("button");
        forget.type = "button";
        forget.className = "btn btn-link";
        forget.textContent = t("Forget it");
        forget.addEventListener("click", () => { sessionStorage.removeItem(draftOf(form)); location.reload(); });
        p.append(forget);
        form.prepend(p);
      }
    }
    if (!once(form)) continue;
    form.addEventListener("input", () => {
      const now = {};
      for (const f of fields()) now[f.name + (["checkbox", "radio"].includes(f.type) ? "=" + f.value : "")] = ["checkbox", "radio"].includes(f.type) ? f.checked : f.value;
      try { sessionStorage.setItem(draftOf(form), JSON.stringify(now)); } catch { /* the store is full: nothing is lost but the draft */ }
    });
    form.addEventListener("submit", () => { if (navigator.onLine) sessionStorage.setItem("sent " + draftOf(form), String(Date.now())); });
  }
}
// A tap on the map says where a mark goes, in the person's unit from the lower left corner.
function marks() {
  const marking = document.getElementById("marking");
  const tapped = document.querySelector("svg.headmap.tap");
  if (!marking || !once(tapped)) return;
  const [unit, digits] = marking.elements.unit.value === "in" ? [25.4, 2] : [1, 1];
  const show = () => {
    const x = parseFloat(marking.elements.x.value) * unit;
    const y = parseFloat(marking.elements.y.value) * unit;
    if (Number.isNaN(x) || Number.isNaN(y)) return;
    let here = tapped.querySelector(".here");
    if (!here) {
      here = document.createElementNS("http://www.w3.org/2000/svg", "path");
      here.setAttribute("class", "here");
      tapped.append(here);
    }
    const up = tapped.dataset.width - y;
    here.setAttribute("d", `M${x - 8} ${up}h16M${x} ${up - 8}v16M${x - 5} ${up}a5 5 0 1 0 10 0a5 5 0 1 0-10 0`);
  };
  tapped.addEventListener("click", (e) => {
    const at = new DOMPoint(e.clientX, e.clientY).matrixTransform(tapped.getScreenCTM().inverse());
    marking.elements.x.value = (at.x / unit).toFixed(digits);
    marking.elements.y.value = ((tapped.dataset.width - at.y) / unit).toFixed(digits);
    show();
  });
  marking.addEventListener("input", show);
  show();
}

// A model's face: what is tapped goes into the form, and is moved by dragging or by the arrows.
const moving = document.getElementById("moving");
const face = document.querySelector("svg.headmap.move");
if (moving && face) {
  const f = moving.elements;
  let unit = 1; // millimetres in the unit of the figures
  const rows = [...document.querySelectorAll("tr[data-spot]")];
  const rowOf = (el) => rows.find((r) => r.dataset.spot === `${el.dataset.what} ${el.dataset.name}`);
  const first = face.querySelector("[data-what=valve]");
  if (first && rowOf(first)) unit = parseFloat(first.getAttribute("cx")) / parseFloat(rowOf(first).dataset.x);
  const places = unit > 10 ? 4 : 3;
  let lit;
  const take = (el) => {
    lit?.classList.remove("lit");
    lit = el;
    lit.classList.add("lit");
    f.what.value = el.dataset.what;
    f.name.value = el.dataset.name;
    f.d.value = rowOf(el)?.dataset.d ?? f.d.value;
    say();
  };
  const say = () => {
    f.x.value = (parseFloat(lit.getAttribute("cx")) / unit).toFixed(places);
    f.y.value = ((face.dataset.width - parseFloat(lit.getAttribute("cy"))) / unit).toFixed(places);
  };
  const to = (x, y) => {
    lit.setAttribute("cx", x);
    lit.setAttribute("cy", y);
    say();
  };
  face.addEventListener("pointerdown", (e) => {
    if (!e.target.dataset.what) return;
    take(e.target);
    e.target.focus();
    face.setPointerCapture(e.pointerId);
    const at = (e) => new DOMPoint(e.clientX, e.clientY).matrixTransform(face.getScreenCTM().inverse());
    const from = at(e);
    const dx = parseFloat(lit.getAttribute("cx")) - from.x;
    const dy = parseFloat(lit.getAttribute("cy")) - from.y;
    const drag = (e) => { const p = at(e); to(p.x + dx, p.y + dy); };
    face.addEventListener("pointermove", drag);
    face.addEventListener("pointerup", () => face.removeEventListener("pointermove", drag), { once: true });
  });
  face.addEventListener("keydown", (e) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    if (!step || !e.target.dataset.what) return;
    e.preventDefault();
    if (lit !== e.target) take(e.target);
    const by = e.shiftKey ? 5 : 0.5;
    to(parseFloat(lit.getAttribute("cx")) + step[0] * by, parseFloat(lit.getAttribute("cy")) + step[1] * by);
  });
  face.addEventListener("focusin", (e) => e.target.dataset.what && take(e.target));
  const was = [...face.querySelectorAll("[data-what]")].find((el) => el.dataset.what === f.what.value && el.dataset.name === f.name.value);
  if (was && !f.x.value) take(was);
}

// Lines of a long sheet are found by typing.
document.addEventListener("input", (e) => {
  const box = e.target.closest("input[data-filter]");
  if (!box) return;
  const words = box.value.toLowerCase().split(/\s+/).filter(Boolean);
  for (const r of document.querySelectorAll(box.dataset.filter)) {
    r.hidden = !words.every((w) => r.textContent.toLowerCase().includes(w));
    const fold = r.closest("details");
    if (fold && words.length && !fold.open) fold.dataset.sought = fold.open = true;
    if (fold?.dataset.sought && !words.length) {
      fold.open = false;
      delete fold.dataset.sought;
    }
  }
});

// Grades are chosen with the number keys; Enter goes on to the next position.
document.addEventListener("keydown", (e) => {
  if (!e.target.matches("#grading select[data-grade]")) return;
  const all = [...document.querySelectorAll("select[data-grade]")];
  if (/^[0-9]$/.test(e.key) && e.target.options[e.key]) {
    e.preventDefault();
    e.target.selectedIndex = Number(e.key);
  }
  if (e.key === "Enter") {
    e.preventDefault();
    (all[all.indexOf(e.target) + 1] ?? document.querySelector("#grading [name=rest]"))?.focus();
  }
});

// A sweep by keyboard, its readings queued until the shop has them.
function sweepBy(sweep) {
  const cells = () => [...sweep.querySelectorAll("input[data-key]")];
  const net = document.getElementById("net");
  let last = "";
  let touched = ""; // key of the cell that is being typed into
  sweep.addEventListener("input", (e) => { touched = e.target.dataset.key ?? ""; });

  const say = (text) => {
    net.textContent = text;
    net.hidden = !text;
  };

  // What is in hand is said where its list is folded.
  const inHand = () => {
    for (const [name, id] of [["tool", "in-hand"], ["stage", "read-at"]]) {
      const shown = document.getElementById(id);
      if (shown) shown.textContent = sweep.elements[name].selectedOptions[0]?.textContent ?? "";
    }
  };
  sweep.addEventListener("change", inHand);

  const light = (position) => {
    document.querySelectorAll("circle.valve").forEach((c) => c.classList.toggle("lit", c.dataset.position === position));
    sweep.querySelectorAll("tbody tr").forEach((r) => r.classList.toggle("lit", r.dataset.position === position));
  };

  const go = (key, step) => {
    const all = cells();
    const to = all[all.findIndex((c) => c.dataset.key === key) + step];
    if (to) to.focus();
    else if (step > 0) document.getElementById("next-sweep")?.focus();
  };

  // What the shop answers is swapped in part by part, by id. A cell in which something is typed
  // that is not kept yet stays, but for the one that the answer is about, as long as it holds what was answered.
  let about = "", answeredFor = "";
  document.body.addEventListener("htmx:oobBeforeSwap", (e) => {
    const here = e.detail.target;
    const typed = here.matches?.("td.cell") && here.querySelector("input");
    if (!typed) return;
    const dirty = typed.value !== typed.defaultValue;
    const newer = here.id === "c-" + about ? dirty && typed.value !== answeredFor : dirty || here.classList.contains("waiting");
    if (newer) e.detail.shouldSwap = false;
  });
  const held = () => document.activeElement?.dataset?.key;
  const hold = (key) => {
    if (key && held() !== key) cell(key)?.focus();
    light(document.activeElement?.dataset?.position);
  };
  const swapIn = (html, key, value) => {
    const focused = held();
    about = key;
    answeredFor = value;
    htmx.swap(sweep, html, { swapStyle: "none" });
    about = "";
    hold(focused);
  };

  // Eyes stay on the gauge: an accepted reading may be answered by a short sound, one for
  // each verdict, or read back aloud. Silent unless it is chosen here, on this tablet.
  const answered = document.getElementById("answered");
  const tones = { sound: [[880, 0.06]], near: [[660, 0.12]], "in doubt": [[520, 0.08], [520, 0.08]], out: [[220, 0.3]] };
  let audio;
  const ring = (verdict) => {
    if (!tones[verdict]) return;
    audio ??= new AudioContext();
    let at = audio.currentTime;
    for (const [pitch, long] of tones[verdict]) {
      const tone = new OscillatorNode(audio, { frequency: pitch });
      const quiet = new GainNode(audio, { gain: 0.15 });
      tone.connect(quiet).connect(audio.destination);
      tone.start(at);
      tone.stop(at + long);
      at += long + 0.06;
    }
    sweep.dataset.rang = verdict;
  };
  const readAloud = (verdict, key) => {
    const [position, ...place] = key.split(".");
    const words = [[...position].join(" "), ...place, cell(key).value, verdict === "unread" ? "" : verdict];
    speechSynthesis.cancel(); // the next reading is in: what was said of the last one is old
    speechSynthesis.speak(new SpeechSynthesisUtterance(words.filter(Boolean).join(", ")));
  };
  const answers = { tone: ring, voice: readAloud };
  if (!("speechSynthesis" in window)) answered.querySelector("[value=voice]").remove();
  answered.value = localStorage.getItem("answered") ?? "";
  answered.addEventListener("change", () => localStorage.setItem("answered", answered.value));

  const cell = (key) => sweep.querySelector(`input[data-key="${CSS.escape(key)}"]`);

  // What is typed is kept in the browser until the shop's file has it, in the order it
  // was typed and with the id it was typed under: a reload, a dead network or a dead
  // battery lose nothing, and nothing is written twice. It is kept by person, so that
  // nobody sends another's readings. Each has an entry of its own: tabs of one sweep that write
  // in the same moment lose nothing of each other's.
  const shelf = `sweep ${sweep.dataset.person} ${location.pathname} `;
  const load = () => Object.keys(localStorage).filter((k) => k.startsWith(shelf)).sort()
    .map((k) => ({ ...JSON.parse(localStorage.getItem(k)), entry: k })).filter((p) => p.one);
  const keep = ({ entry, ...body }) => {
    const last = parseInt(load().at(-1)?.entry.slice(shelf.length) ?? "0", 10);
    entry ??= shelf + String(last + 1).padStart(9, "0") + "." + newID().slice(0, 6);
    try {
      localStorage.setItem(entry, JSON.stringify(body));
      return true;
    } catch {
      say(t("This tablet's own store is full: the reading stays in its field. Let waiting readings be sent first."));
      return false;
    }
  };
  // One tab at a time changes or sends what waits: two tabs of one sweep share it.
  const alone = (f) => (navigator.locks ? navigator.locks.request(shelf, f) : f());
  let sending = false;
  const mine = new Set(); // ids of what this tab has sent
  let again;
  const newID = () => Array.from(crypto.getRandomValues(new Uint8Array(26)), (b) => "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567"[b % 32]).join("");

  const send = (input) => {
    const key = input.dataset.key;
    const body = { one: key, by: sweep.dataset.person };
    for (const name of ["tool", "stage", "why", "mode", "set", "unit", "warm", "hand", "v." + key, "id." + key]) body[name] = sweep.elements[name]?.value ?? "";
    // What was typed here before and is not on its way yet is replaced. What may have arrived
    // without an answer stays before this one, which puts it right.
    const before = load().filter((p) => p.one === key);
    if (before.some((p) => p.tried)) {
      body["id." + key] = sweep.elements["id." + key].value = newID();
      body.why ||= "put right before it was answered";
    }
    if (!keep(body)) return;
    for (const p of before) if (!p.tried) localStorage.removeItem(p.entry);
    input.dataset.sent = input.value;
    input.closest("td").classList.add("waiting");
    pump();
  };

  // fresh shows what stands now, whoever wrote it. An answer to this tab that came meanwhile may be newer than
  // what was asked for before it: then it is asked again. Of several only the last counts.
  let had = 0, asked = 0;
  const fresh = async () => {
    const now = ++asked, before = had;
    const wanted = new URLSearchParams({ stage: sweep.elements.stage?.value ?? "", tool: sweep.elements.tool.value });
    const answer = await fetch(sweep.getAttribute("action") + "?" + wanted, { headers: { "HX-Request": "true" } });
    if (!answer.ok) return;
    const html = await answer.text();
    if (now !== asked) return;
    if (before !== had) return fresh();
    swapIn(html, "", "");
  };

  // settle: what another tab has sent waits here no more.
  const settle = () => {
    const waits = load().map((p) => p.one);
    const done = [...sweep.querySelectorAll("td.waiting input[data-key]")].filter((input) => !waits.includes(input.dataset.key));
    for (const input of done) {
      input.closest("td").classList.remove("waiting");
      // It was taken as it stands: the answer may take its place, but for what is being typed, or was since.
      if (input !== document.activeElement && input.value === input.dataset.sent) input.defaultValue = input.value;
    }
    if (done.length) fresh().catch(() => {}); // without an answer it stays as it is
  };
  addEventListener("storage", (e) => {
    if (!e.key?.startsWith(shelf)) return;
    settle();
    if (!e.newValue) fresh().catch(() => {}); // sent by the other tab: it may have put right what stands here
  });

  // pump sends one after the other, so that no late answer shows an older state. What the shop
  // cannot take is tried again later, and does not keep back what was typed after it.
  const pump = async () => {
    if (sending) return;
    sending = true;
    clearTimeout(again);
    let failed = [];
    for (;;) {
      const left = await alone(async () => {
        const body = load().find((p) => !failed.includes(p.entry));
        if (!body) return 0;
        const said = await deliver(body);
        if (said === "taken") localStorage.removeItem(body.entry);
        else failed.push(body.entry);
        return said === "nobody" ? 0 : load().length;
      });
      if (!left) break;
    }
    sending = false;
    settle();
    if (load().length) again = setTimeout(pump, 2000);
    else if (net.dataset.down) {
      delete net.dataset.down;
      say("");
    }
  };

  // deliver sends one reading: "taken" when the shop has answered, "broken" when it could not
  // take this one, "nobody" when there is no answer or nobody is signed in.
  const deliver = async (kept) => {
    const key = kept.one;
    const waiting = () => {
      const n = load().length;
      return n === 1 ? t("1 reading waits") : t("%s readings wait", n);
    };
    try {
      keep({ ...kept, tried: "yes" });
      mine.add(kept["id." + key]);
      const { tried, entry, ...typed } = kept;
      const answer = await fetch(sweep.action, { method: "POST", body: new URLSearchParams(typed), headers: { "HX-Request": "true" } });
      if (answer.status === 409) {
        net.dataset.down = "yes";
        say(t("Somebody else is signed in on this tablet now. %s under your name: sign in again, and this page sends them.", waiting()));
        return "nobody";
      }
      if ([400, 403, 404, 413].includes(answer.status)) {
        cell(key).closest("td").classList.remove("waiting");
        say(t("The shop refuses this reading: it is not yours to write, or the head is gone. It stays in its field."));
        return "taken"; // asking again would not help
      }
      if (answer.status === 401) {
        net.dataset.down = "yes";
        say(t("You are signed out. %s on this tablet under your name: sign in again, and this page sends them.", waiting()));
        return "nobody";
      }
      if (answer.status !== 200 && answer.status !== 422) {
        net.dataset.down = "yes";
        say(t("The shop could not take a reading (%s). %s on this tablet and will be sent by itself.", answer.status, waiting()));
        return "broken";
      }
      const html = await answer.text();
      const at = document.activeElement, elsewhere = at?.dataset?.key && at.value !== at.defaultValue; // something else is being typed
      had++;
      swapIn(html, key, kept["v." + key]);
      if (answer.status === 422) {
        if (!elsewhere) {
          cell(key).focus();
          cell(key).select();
        }
        const told = new DOMParser().parseFromString(html, "text/html").querySelector("[data-sweep-error]")?.textContent;
        if (!document.getElementById("say-" + key)) say(told || t("Choose the tool and when it was read."));
      }
      else answers[answered.value]?.(document.getElementById("r-" + key.split(".")[0])?.querySelector("svg")?.getAttribute("aria-label"), key);
      return "taken";
    } catch {
      net.dataset.down = "yes";
      say(t("The shop's file does not answer. %s on this tablet and will be sent by itself.", waiting()));
      return "nobody";
    }
  };

  // spread types a column of values from here on, as if by hand.
  const spread = (from, values) => {
    const all = cells();
    let at = all.findIndex((c) => c.dataset.key === from);
    for (const value of values) {
      const cut = value.search(/[;,\t]/);
      const named = cut > 0 && all.find((c) => c.dataset.key === value.slice(0, cut).trim()); // "1E1.top.A,9.014" names its place
      const to = named || all[at++];
      if (!to) continue;
      to.value = (named ? value.slice(cut + 1) : value).trim();
      if (to.value) send(to);
    }
    go(all[Math.min(at, all.length) - 1]?.dataset.key ?? from, 1);
  };
  const rows = (text) => text.split(/\r?\n/).flatMap((line) => (/^[0-9]+[IE][0-9]+|^[LXDTCGJ][0-9]+|^H[.,;\t]/.test(line) ? [line] : line.split("\t"))).filter((v) => v.trim());

  sweep.addEventListener("paste", (e) => {
    const values = rows(e.clipboardData.getData("text"));
    if (!e.target.dataset?.key || values.length < 2) return;
    e.preventDefault();
    spread(e.target.dataset.key, values);
  });
  sweep.addEventListener("dragover", (e) => e.preventDefault());
  sweep.addEventListener("drop", async (e) => {
    e.preventDefault();
    const file = e.dataTransfer.files[0];
    if (!file || file.size > 100000) return say(t("Drop a file of values, one to a line."));
    const from = document.activeElement?.dataset?.key ?? cells()[0].dataset.key;
    spread(from, rows(await file.text()));
  });

  sweep.addEventListener("keydown", (e) => {
    const input = e.target;
    if (e.key === "Escape" && !document.getElementById("keys").open) {
      location.href = sweep.querySelector(".leave").href;
      return;
    }
    if (!input.dataset?.key) return;
    const key = input.dataset.key;
    if (e.key === "*" && last) {
      e.preventDefault();
      input.value = last;
      return;
    }
    if (e.key === "Backspace" && input.value === "") {
      e.preventDefault();
      go(key, -1);
      return;
    }
    if (e.key === "ArrowDown" || e.key === "ArrowUp") {
      e.preventDefault();
      go(key, e.key === "ArrowDown" ? 1 : -1);
      return;
    }
    if (e.key !== "Enter") return;
    e.preventDefault();
    const label = input.value.trim().toUpperCase();
    if (/^TL-[0-9]+$/.test(label)) {
      const tool = [...sweep.elements.tool.options].find((o) => o.dataset.label === label);
      input.value = input.dataset.standing ?? "";
      if (tool) sweep.elements.tool.value = tool.value;
      inHand();
      say(tool ? t("Taken up: %s", tool.textContent) : t("%s is not a tool for this.", label));
      return;
    }
    // The same number typed again with another tool is another reading; walked over with Enter it is not.
    const anew = touched === key && sweep.elements.tool.value !== input.dataset.readWith;
    touched = "";
    if (input.value.trim() && (input.value !== input.dataset.standing || anew)) {
      last = input.value;
      send(input);
    }
    go(key, 1);
  });

  sweep.addEventListener("click", (e) => {
    if (e.target.matches("[data-so]")) e.target.closest("p").hidden = true;
    const key = e.target.dataset.again;
    if (!key) return;
    sweep.elements.why.value ||= "read again";
    cell(key).focus();
  });

  sweep.addEventListener("focusin", (e) => {
    if (!e.target.dataset?.key) return;
    light(e.target.dataset.position);
    e.target.select();
  });

  // What this station's gauge sends is typed as if by hand; what others read appears.
  const live = {
    gauge: (data) => {
      const at = document.activeElement?.dataset?.key ? document.activeElement : cells().find((c) => !c.dataset.standing);
      if (!at) return;
      at.focus();
      at.value = data;
      touched = at.dataset.key;
      at.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true, cancelable: true }));
    },
    reading: async (data) => {
      const { person, characteristic, name, ids } = JSON.parse(data);
      if (ids?.every((id) => mine.has(id))) return; // it was this tab
      if (characteristic !== sweep.dataset.code) return;
      try {
        await fresh();
      } catch {
        return; // the page is leaving; the next load shows it
      }
      if (String(person) !== sweep.dataset.person) say(t("%s reads this too.", name));
    },
  };
  sweep.addEventListener("htmx:sseBeforeMessage", (e) => {
    e.preventDefault();
    live[e.detail.type]?.(e.detail.data);
  });

  // What others read while the stream was cut appears when it is back.
  let streamed = false;
  sweep.addEventListener("htmx:sseOpen", () => {
    if (streamed) fresh().catch(() => {}); // the next one shows it
    streamed = true;
  });

  // What waited here since the page was left is put back and sent.
  for (const p of load()) {
    const input = cell(p.one);
    if (!input) continue;
    input.value = p["v." + p.one];
    input.dataset.sent = input.value;
    sweep.elements["id." + p.one].value = p["id." + p.one];
    input.closest("td").classList.add("waiting");
  }
  pump();

  const first = cells().find((c) => c.getAttribute("aria-invalid") === "true") ?? cells().find((c) => !c.dataset.standing);
  (first ?? cells()[0])?.focus();
}

// Moving the facing cut holds it; letting go of "held" gives it back to the planner.
document.addEventListener("input", (e) => { if (e.target.id === "cut") document.getElementById("hold").checked = true; }, { capture: true });

// On the page of decisions a finding that is left is worked out once its reason is there.
document.addEventListener("change", (e) => {
  const reason = e.target.closest("#decisions") && e.target.value === "leave" &&
    e.target.closest("label, tr").querySelector("input[name^='reason/']");
  if (!reason || reason.value) return;
  e.stopPropagation();
  reason.focus();
}, { capture: true });

// What is answered is worked into the page: a press that has begun, what is being typed and what
// stands open outlive it.
const typing = (node) => node === document.activeElement && node.matches("#decisions :is(input.reason, .single input)");
const opened = (node, change) => node.closest("#decisions") || change === "remove";
if (window.Idiomorph) {
  Idiomorph.defaults.callbacks.beforeAttributeUpdated = (name, node, change) =>
    !(name === "open" && opened(node, change)) && !(name === "value" && typing(node));
}

// begin makes a page's main part ready: the one that came with the page, and each that is swapped in.
function begin() {
  folds();
  waits();
  drafts();
  marks();
  const sweep = document.getElementById("sweep");
  if (once(sweep)) sweepBy(sweep);
}
begin();
