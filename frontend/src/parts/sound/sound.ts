/** Short tones for cues. Browsers allow sound only after a press, so `wake` is called from one. */
import { LANGUAGE } from "../../messages/area";

const TONES: Record<string, [pitch: number, seconds: number]> = {
  say: [392, 0.18],
  swap: [392, 0.3],
  write_down: [392, 0.12],
  count_pulse: [880, 0.4],
  stop_counting: [330, 0.6],
  get_ready: [440, 0.12],
  count: [660, 0.12],
  go: [990, 0.5],
  half_way: [550, 0.25],
  last: [660, 0.1],
  beat: [880, 0.09],
  stop: [330, 0.9],
  beep: [784, 0.22],
  next_stage: [1047, 0.5],
  ask: [247, 0.35],
};

/** What this device was told of sound and voice, on whichever screen. */
export function switched(what: "sound" | "voice", otherwise: boolean): boolean {
  const kept = localStorage.getItem(`lauf.${what}`);
  return kept === null ? otherwise : kept === "on";
}
export function turn(what: "sound" | "voice", on: boolean): void {
  localStorage.setItem(`lauf.${what}`, on ? "on" : "off");
}

let context: AudioContext | null = null;

export function wake(): void {
  context ??= new AudioContext();
  void context.resume();
}

export function play(kind: string): void {
  playIn(kind, 0);
}

/**
 * A tone so many milliseconds from now, on the sound card's own clock: a busy page does not delay
 * it. Returns what takes it back, or null where there is no sound.
 */
export function playIn(kind: string, ms: number): (() => void) | null {
  const tones = TONES[kind];
  if (!tones || !context || context.state !== "running" || !switched("sound", true)) return null;
  const [pitch, seconds] = tones;
  const at = context.currentTime + Math.max(0, ms) / 1000;
  const tone = context.createOscillator();
  const gain = context.createGain();
  tone.frequency.value = pitch;
  gain.gain.setValueAtTime(0.5, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + seconds);
  tone.connect(gain).connect(context.destination);
  tone.start(at);
  tone.stop(at + seconds);
  return () => tone.disconnect();
}

/**
 * A file so many milliseconds from now, or from so far into it, for at most so many. Returns what
 * ends it, or null where there is no sound.
 */
export function playFile(file: AudioBuffer, ms: number, lasts_ms: number): (() => void) | null {
  if (!context || context.state !== "running" || !switched("sound", true)) return null;
  const source = context.createBufferSource();
  source.buffer = file;
  source.connect(context.destination);
  const from = Math.max(0, -ms) / 1000;
  source.start(context.currentTime + Math.max(0, ms) / 1000, from, lasts_ms / 1000);
  return () => source.disconnect();
}

/** Say a cue aloud with the browser's own voice, where it has one and it is switched on. */
export function speak(words: string): void {
  if (!("speechSynthesis" in window) || !switched("voice", false)) return;
  const utterance = new SpeechSynthesisUtterance(words);
  utterance.lang = LANGUAGE;
  utterance.rate = 1.05;
  window.speechSynthesis.speak(utterance);
}
