// The hands of the bench: a sweep by keyboard, and "/" to find a head anywhere.
// Without this file every form still works as a plain post.

const sweep = document.getElementById("sweep");

document.addEventListener("keydown", (e) => {
  const typing = e.target.matches("input, textarea, select");
  if (e.key === "/" && !typing) {
    e.preventDefault();
    document.getElementById("find")?.focus();
  }
});

if (sweep) {
  const cells = () => [...sweep.querySelectorAll("input[data-key]")];
  const net = document.getElementById("net");
  let last = "";

  const say = (text) => {
    net.textContent = text;
    net.hidden = !text;
  };

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

  const swapIn = (html) => {
    const doc = new DOMParser().parseFromString(html, "text/html");
    const held = document.activeElement?.dataset?.key;
    for (const part of doc.querySelectorAll("[id]")) {
      if (!/^(c-|r-|progress$|sweep-map$)/.test(part.id)) continue;
      part.removeAttribute("hx-swap-oob");
      const here = document.getElementById(part.id);
      if (part.id === "c-" + held && here.querySelector("input").value !== here.querySelector("input").defaultValue) continue;
      here?.replaceWith(part);
    }
    if (held && document.activeElement?.dataset?.key !== held) {
      sweep.querySelector(`input[data-key="${CSS.escape(held)}"]`)?.focus();
    }
    light(document.activeElement?.dataset?.position);
  };

  // Readings are sent one after the other, in the order they were typed, so that no late
  // answer shows an older state.
  let queue = Promise.resolve();

  // send keeps what was typed in its field until the shop's file has it.
  const send = (input) => {
    const key = input.dataset.key;
    const body = new URLSearchParams({ one: key });
    for (const name of ["tool", "stage", "why", "v." + key, "id." + key]) body.set(name, sweep.elements[name].value);
    input.closest("td").classList.add("waiting");
    queue = queue.then(() => deliver(input, key, body));
  };

  const deliver = async (input, key, body) => {
    try {
      const answer = await fetch(sweep.action, { method: "POST", body, headers: { "HX-Request": "true" } });
      if (answer.status !== 200 && answer.status !== 422) throw new Error(answer.status);
      if (answer.redirected) return location.reload();
      swapIn(await answer.text());
      say("");
      if (answer.status === 422) {
        const again = sweep.querySelector(`input[data-key="${CSS.escape(key)}"]`);
        again.focus();
        again.select();
        if (!document.getElementById("say-" + key)) say("Choose the tool and when it was read.");
      }
    } catch {
      input.closest("td").classList.remove("waiting");
      say("The shop's file does not answer. What is typed stays here: press Enter on it again.");
    }
  };

  sweep.addEventListener("keydown", (e) => {
    const input = e.target;
    if (e.key === "Escape") {
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
    if (input.value.trim() && input.value !== input.dataset.standing) {
      last = input.value;
      send(input);
    }
    go(key, 1);
  });

  sweep.addEventListener("focusin", (e) => {
    if (!e.target.dataset?.key) return;
    light(e.target.dataset.position);
    e.target.select();
  });

  const first = cells().find((c) => c.getAttribute("aria-invalid") === "true") ?? cells().find((c) => !c.dataset.standing);
  (first ?? cells()[0])?.focus();
}
