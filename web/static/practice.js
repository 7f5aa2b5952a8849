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
