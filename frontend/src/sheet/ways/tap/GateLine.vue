<script setup lang="ts">
/** A timing gate beside the finish line: what it sends becomes taps. */
import { t } from "../../../messages/sheet";
import { ref } from "vue";
import { GATE_TROUBLES, simulatedGate, type GateTrouble } from "../../parts/devices";
import { useGate } from "./useGate";

const props = defineProps<{ activityId: string; startedAt: number | null }>();
const emit = defineEmits<{ passed: [pupilId: string | null, at: number] }>();
const on = ref(false);
const trouble = ref<GateTrouble>("none");
const gate = useGate(
  props.activityId,
  simulatedGate(props.activityId, () => trouble.value),
  on,
  () => props.startedAt,
  // A gate's passage is a tap at the gate's own time, which counts from the start.
  (pupilId, ms) => emit("passed", pupilId, (props.startedAt ?? 0) + ms),
);
</script>

<template>
  <div class="gate">
    <button type="button" class="tool" :aria-pressed="on" @click="on = !on">
      {{ on ? t("gateOff") : t("gateOn") }}
    </button>
    <v-select
      v-model="trouble"
      class="wide"
      :aria-label="t('howTheSimulatedGateBehaves')"
      :prefix="t('simulatedGate')"
      :items="GATE_TROUBLES.map((one) => ({ value: one.code, title: one.words }))"
    />
    <span v-if="gate.passages.value" role="status">
      {{ t("nPassage", gate.passages.value) }}
      <template v-if="gate.leftOut.value.length">
        {{ t("leftOutWhat", { what: gate.leftOut.value.join(", ") }) }}
      </template>
    </span>
    <span v-if="gate.problem.value" role="alert" class="problem">{{ gate.problem.value }}</span>
  </div>
</template>

<style scoped>
.gate {
  flex: none;
  display: flex;
  align-items: center;
  gap: var(--gap-8);
  white-space: nowrap;
}
</style>
