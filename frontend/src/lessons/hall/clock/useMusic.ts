/** The teacher's own sound under what is called to a beat: it goes where the clock goes. */
import { decoded, soundOf } from "../../../parts/sound/music";
import { playFile } from "../../../parts/sound/sound";
import type { Timeline } from "./conductor";

export function useMusic() {
  const files = new Map<string, AudioBuffer>();
  let playing: { segment: string; end: () => void } | null = null;

  function stop() {
    playing?.end();
    playing = null;
  }
  return {
    stop,
    /** Have the sounds of a plan at hand before they are due; what is not here is called by tones. */
    async fetch(plan: Timeline | null) {
      for (const block of plan?.blocks ?? []) {
        if (block.kind !== "beats" || !block.id || files.has(block.id)) continue;
        const kept = await soundOf(block.id).catch(() => undefined);
        const file = kept && (await decoded(kept.bytes).catch(() => undefined));
        if (file) files.set(block.id, file);
      }
    },
    /** Begin what begins before `end`, or goes on at `at`; both in milliseconds of the timeline. */
    follow(plan: Timeline, at: number, end: number) {
      const one = plan.segments.find(
        (each) =>
          each.phase === "work" &&
          each.from_ms <= end &&
          each.to_ms > at &&
          plan.blocks[each.block]?.kind === "beats",
      );
      if (playing && playing.segment !== one?.id) stop();
      const file = one && files.get(plan.blocks[one.block]?.id ?? "");
      if (!one || !file || playing) return;
      const lasts = one.to_ms - Math.max(at, one.from_ms);
      const ended = playFile(file, one.from_ms - at, lasts);
      if (ended) playing = { segment: one.id, end: ended };
    },
  };
}
