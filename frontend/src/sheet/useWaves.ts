/** Who goes by the clock of a way: a wave of the class, or everybody together. */
import { computed, ref, type Ref } from "vue";
import { latestRun, useOwnRun } from "./useRun";
import type { Run } from "./run";
import type { Activity, useTest } from "./useTest";

export function useWaves(
  activity: () => Activity,
  { board, rows }: Pick<ReturnType<typeof useTest>, "board" | "rows">,
  way: Run["way"],
  go: Ref<number>,
) {
  const latest = latestRun(activity().id, activity().runs, way);
  go.value = latest?.try_number ?? 1;
  const chosen = ref<number | "all" | null>(latest ? (latest.wave ?? "all") : null);
  const waves = computed(() => board.value?.waves ?? 1);
  /** The wave whose clock this is; null where everybody goes together. */
  const wave = computed(() => {
    if (chosen.value === "all" || waves.value < 2) return null;
    return chosen.value ?? 1;
  });
  return {
    waves,
    wave,
    own: useOwnRun(activity, way, go, wave),
    /** Nobody else is started, timed or at its end. */
    group: computed(() =>
      wave.value === null ? rows.value : rows.value.filter((row) => row.wave === wave.value),
    ),
    /** Names the go and the wave that this clock is of. */
    goKey: () => `${go.value}${wave.value === null ? "" : `.w${wave.value}`}`,
    toWave: (to: number | "all") => (chosen.value = to),
  };
}
