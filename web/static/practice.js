// A dropped valve is heard: each blow of [data-hits] is a short knock, as loud as it says.
document.addEventListener("click", (e) => {
	const button = e.target.closest("[data-hits]");
	if (!button) return;
	const sound = new AudioContext();
	for (const hit of button.dataset.hits.split(" ")) {
		const [at, loud] = hit.split("/").map(Number);
		const tone = sound.createOscillator();
		const level = sound.createGain();
		tone.frequency.value = 900;
		level.gain.setValueAtTime(0, sound.currentTime);
		level.gain.setValueAtTime(loud * 0.5, sound.currentTime + at);
		level.gain.exponentialRampToValueAtTime(0.001, sound.currentTime + at + 0.07);
		tone.connect(level).connect(sound.destination);
		tone.start(sound.currentTime + at);
		tone.stop(sound.currentTime + at + 0.08);
	}
	setTimeout(() => sound.close(), 1500);
});

// The tool is laid where the sweep is read, and shows what it shows there; after a reading it is laid anew.
const at = () => document.getElementById("at");
const lay = (key) => {
	at().value = key;
	htmx.trigger("#gauge", "lay");
};
document.addEventListener("focusin", (e) => {
	if (at() && e.target.dataset.key && e.target.dataset.key !== at().value) lay(e.target.dataset.key);
});
document.addEventListener("htmx:oobAfterSwap", (e) => at() && e.detail.target.id === "progress" && lay(at().value));

// What the tool shows is typed into its cell as if by hand. The hand stays on the tool.
const take = (stay) => {
	const button = document.querySelector("#instrument [data-shows]");
	if (!button || button.disabled || button.value !== at().value) return; // it is on its way there
	const cell = document.querySelector(`#sweep input[data-key="${CSS.escape(button.value)}"]`);
	const hand = document.activeElement.id === "hand" && document.activeElement;
	button.disabled = true; // until it is laid anew
	cell.focus();
	cell.value = button.dataset.shows;
	cell.dispatchEvent(new Event("input", { bubbles: true }));
	cell.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true, cancelable: true }));
	if (stay) cell.focus();
	if (hand) hand.focus();
};
document.addEventListener("click", (e) => {
	const button = e.target.closest("[data-shows], [data-stay]");
	if (!button) return;
	e.preventDefault();
	take("stay" in button.dataset);
});
document.addEventListener("keydown", (e) => {
	if (e.target.id !== "hand" || e.key !== "Enter") return;
	e.preventDefault();
	take(e.shiftKey);
});
