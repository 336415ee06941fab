<script setup lang="ts">
/** The count called for everybody: find it, 3-2-1, count, stop; then the beats are written down. */
import { t } from "../../../messages/sheet";
import { computed, onBeforeUnmount, ref } from "vue";
import { playIn, speak, wake } from "../../../parts/sound/sound";
import { now } from "../../../parts/time/timeSource";
import { toNext, useLooks } from "../../../parts/time/useLooks";

const props = defineProps<{ seconds: number }>();
const emit = defineEmits<{ done: [] }>();
/** To find the pulse at the neck or wrist. */
const FIND_MS = 8_000;

const goAt = ref<number | null>(null);
const at = ref(now());
let tones: ((() => void) | null)[] = [];
const phase = computed(() => {
  if (goAt.value === null) return "";
  if (at.value < goAt.value) return at.value < goAt.value - 3_000 ? t("findYourPulse") : t("ready");
  return t("count");
});
const left = computed(() => {
  if (goAt.value === null) return 0;
  const to = at.value < goAt.value ? goAt.value : goAt.value + props.seconds * 1000;
  return Math.max(0, Math.ceil((to - at.value) / 1000));
});

function start() {
  wake();
  goAt.value = now() + FIND_MS;
  speak(t("findYourPulse"));
  tones = [
    ...[3, 2, 1].map((n) => playIn("count", FIND_MS - n * 1000)),
    playIn("count_pulse", FIND_MS),
    playIn("stop_counting", FIND_MS + props.seconds * 1000),
  ];
}
function cancel() {
  tones.forEach((takeBack) => takeBack?.());
  tones = [];
  goAt.value = null;
}
function look() {
  const before = at.value;
  at.value = now();
  if (goAt.value === null) return;
  const end = goAt.value + props.seconds * 1000;
  if (before < goAt.value && at.value >= goAt.value) speak(t("count"));
  if (at.value >= end) {
    speak(t("stop"));
    goAt.value = null;
    emit("done");
  }
}
useLooks(
  look,
  () => goAt.value !== null,
  () => toNext(1000, at.value - (goAt.value ?? 0)),
);
onBeforeUnmount(cancel);
</script>

<template>
  <v-btn v-if="goAt === null" color="primary" size="large" @click="start">
    {{ t("countSecondsSTogether", { seconds }) }}
  </v-btn>
  <div v-else class="board calling" role="status">
    <span class="figure phase">{{ phase }}</span>
    <span class="figure digits" data-testid="count">{{ left }}</span>
    <v-btn size="large" variant="outlined" @click="cancel">{{ t("cancel") }}</v-btn>
  </div>
</template>

<style scoped>
.calling {
  position: fixed;
  inset: 12vh 8vw;
  z-index: 20;
  display: grid;
  justify-items: center;
  align-content: center;
  gap: var(--gap-8);
  border-width: var(--line-3);
}
.phase {
  font-size: clamp(2.6rem, 8vw, 6rem);
}
.digits {
  font-size: clamp(8rem, 34vh, 26rem);
  line-height: 0.85;
}
</style>
