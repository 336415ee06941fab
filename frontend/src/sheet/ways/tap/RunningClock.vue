<script setup lang="ts">
/** A clock that shows tenths: alone in its own component, since it is drawn anew with each. */
import { computed, ref } from "vue";
import { now } from "../../../parts/time/timeSource";
import { toNext, useLooks } from "../../../parts/time/useLooks";
import { asTyped } from "./taps";

const props = defineProps<{ goAt: number | null; cap: number | null }>();
const emit = defineEmits<{ capped: [capped: boolean] }>();
const at = ref(now());
let capped = false;
const passed = computed(() => (props.goAt === null ? 0 : Math.max(0, at.value - props.goAt)));
const shown = computed(() => asTyped(Math.min(passed.value, props.cap ?? Infinity)));
useLooks(
  () => {
    at.value = now();
    const is = props.cap !== null && passed.value >= props.cap;
    if (is !== capped) emit("capped", (capped = is));
  },
  () => props.goAt !== null,
  () => toNext(100, at.value - (props.goAt ?? 0)),
);
</script>

<template>
  <p class="figure digits" data-testid="clock">{{ shown }}</p>
</template>

<style scoped>
.digits {
  flex: none;
  margin: 0;
  font-size: var(--digits);
  line-height: 0.9;
  min-width: 3.1em;
  font-variant-numeric: tabular-nums;
}
</style>
