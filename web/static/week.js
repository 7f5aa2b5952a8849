// Bars of the week's drawing are put to another time by pulling them, or with the keyboard. What
// it would mean is worked out by the shop: here a bar only follows the hand.
const box = document.querySelector(".weekbox[data-view]");
const svg = box?.querySelector("svg.week[data-days]");
const days = (svg?.dataset.days ?? "").split(";").filter(Boolean).map((d) => {
  const [x, wide, open, shut] = d.split(" ").map(Number);
  return { x, wide, open, shut };
});
const quarter = 15 * 60, step = 30 * 60;
const said = document.createElement("p");
said.setAttribute("role", "status");
said.className = "text-body-secondary weeksaid";

// timeAt is the time at a place of the drawing, to the quarter of an hour; placeOf is where a time lies.
function timeAt(x) {
  const d = days.findLast((d) => x >= d.x) ?? days[0];
  const part = Math.min(1, Math.max(0, (x - d.x) / d.wide));
  return Math.round((d.open + part * (d.shut - d.open)) / quarter) * quarter;
}

function placeOf(t) {
  const d = days.find((d) => t <= d.shut) ?? days.at(-1);
  return d.x + d.wide * Math.min(1, Math.max(0, (t - d.open) / (d.shut - d.open)));
}

// stepped is a time so many half hours of working time further on, or back.
function stepped(t, by) {
  const i = Math.max(0, days.findIndex((d) => t <= d.shut));
  const next = Math.max(t, days[i].open) + by * step;
  if (next > days[i].shut - quarter && by > 0) return days[i + 1]?.open ?? days[i].shut;
  if (next < days[i].open && by < 0) return days[i - 1] ? days[i - 1].shut - step : days[i].open;
  return next;
}

const left = (bar) => bar.querySelector("rect").x.baseVal.value;

function put(bar, t) {
  bar.classList.toggle("moving", t !== null);
  if (t === null) bar.removeAttribute("transform");
  else bar.setAttribute("transform", `translate(${(placeOf(t) - left(bar)).toFixed(1)} 0)`);
  const when = t === null ? "" : new Date(t * 1000).toLocaleString([], { weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
  said.textContent = when && `${bar.querySelector("title").textContent.split(",")[0]}: to ${when}. Enter looks at what it means, Esc leaves it.`;
}

function look(bar, t) {
  const q = new URLSearchParams({ move: bar.dataset.bar, to: String(t), view: box.dataset.view, span: box.dataset.span });
  location.assign(`/week?${q}`);
}

function pull(bar, down) {
  if (down.button !== 0) return;
  const scale = svg.getScreenCTM().a;
  const from = left(bar);
  let to = null;
  const move = (e) => {
    const by = e.clientX - down.clientX;
    if (to === null && Math.abs(by) < 5) return;
    e.preventDefault();
    to = timeAt(from + by / scale);
    put(bar, to);
  };
  const done = (e) => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", done);
    removeEventListener("pointercancel", done);
    if (to === null) return;
    bar.addEventListener("click", (c) => c.preventDefault(), { once: true });
    if (e.type === "pointerup") look(bar, to);
    else put(bar, null);
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", done);
  addEventListener("pointercancel", done);
}

if (svg && days.length) {
  box.after(said);
  for (const bar of svg.querySelectorAll("a[data-bar]")) {
    let to = null;
    bar.addEventListener("dragstart", (e) => e.preventDefault());
    bar.addEventListener("pointerdown", (e) => pull(bar, e));
    bar.addEventListener("keydown", (e) => {
      const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
      if (e.shiftKey && by) {
        e.preventDefault();
        to = stepped(to ?? Number(bar.dataset.start), by);
        put(bar, to);
      } else if (to !== null && e.key === "Enter") {
        e.preventDefault();
        look(bar, to);
      } else if (to !== null && e.key === "Escape") {
        to = null;
        put(bar, null);
      }
    });
    bar.addEventListener("blur", () => {
      to = null;
      if (bar.classList.contains("moving")) put(bar, null);
    });
  }
}
