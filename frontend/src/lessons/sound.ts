/** Short tones for cues. Browsers allow sound only after a press, so `wake` is called from one. */
import type { Cue } from "./clock";

const TONES: Record<Cue["kind"], [pitch: number, seconds: number]> = {
  get_ready: [440, 0.12],
  count: [660, 0.12],
  go: [990, 0.5],
  half_way: [550, 0.25],
  last: [660, 0.1],
  stop: [330, 0.9],
};

let context: AudioContext | null = null;

export function wake(): void {
  context ??= new AudioContext();
  void context.resume();
}

export function play(kind: Cue["kind"]): void {
  if (!context || context.state !== "running") return;
  const [pitch, seconds] = TONES[kind];
  const tone = context.createOscillator();
  const gain = context.createGain();
  tone.frequency.value = pitch;
  gain.gain.setValueAtTime(0.5, context.currentTime);
  gain.gain.exponentialRampToValueAtTime(0.001, context.currentTime + seconds);
  tone.connect(gain).connect(context.destination);
  tone.start();
  tone.stop(context.currentTime + seconds);
}
