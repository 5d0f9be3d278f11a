/** A bell for whoever looks away: two short tones and a shake of the device. Silence where the browser allows neither. */
export function ring(): void {
  navigator.vibrate?.([200, 100, 200]);
  try {
    const audio = new AudioContext();
    for (const [at, pitch] of [
      [0, 880],
      [0.25, 1175],
    ] as const) {
      const tone = audio.createOscillator();
      const loud = audio.createGain();
      tone.frequency.value = pitch;
      loud.gain.setValueAtTime(0.25, audio.currentTime + at);
      loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + at + 0.22);
      tone.connect(loud).connect(audio.destination);
      tone.start(audio.currentTime + at);
      tone.stop(audio.currentTime + at + 0.24);
    }
  } catch {
    // No sound before the first touch: the words on the screen are its twin.
  }
}
