<script setup lang="ts">
/** Pulse belts: what they send now, checked, and taken for everybody at once. */
import { t } from "../../../messages/sheet";
import { useIntervalFn } from "@vueuse/core";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../../../api/client";
import { BELT_TROUBLES, simulatedBelts, type BeltTrouble } from "../../parts/devices";

const props = defineProps<{
  lessonId: string;
  children: Schemas["PulseChild"][];
  /** What the class does at the moment that is being taken. */
  moment: string;
}>();
const emit = defineEmits<{ take: [pulses: { pupilId: string; bpm: number }[]] }>();
/** How hard a simulated class works at each moment, in percent of its reserve. */
const EFFORT: Record<string, number> = { rest: 3, warm_up: 45, activity: 78, recovery: 30 };

const trouble = ref<BeltTrouble>("none");
const source = simulatedBelts(
  props.lessonId,
  () => EFFORT[props.moment] ?? 50,
  () => trouble.value,
);
const readings = ref<Schemas["BeltPulse"][]>([]);
const problem = ref("");
let asking = false;

async function listen() {
  if (asking) return;
  asking = true;
  try {
    const messages = await source.messages();
    const params = { path: { lesson_id: props.lessonId } };
    const body = { messages };
    readings.value = await answer(client.POST("/api/lessons/{lesson_id}/belts", { params, body }));
    problem.value = "";
  } catch (error) {
    problem.value = (error as Error).message;
    readings.value = [];
  } finally {
    asking = false;
  }
}
void listen();
useIntervalFn(() => void listen(), 2_000);

const good = computed(() =>
  readings.value.flatMap((one) => (one.bpm ? [{ pupilId: one.pupil_id, bpm: one.bpm }] : [])),
);
const odd = computed(() =>
  props.children.flatMap((child) => {
    const found = readings.value.find((one) => one.pupil_id === child.pupil_id);
    if (found?.bpm || !readings.value.length) return [];
    return [{ name: child.name, words: found?.problem ?? t("theBeltSendsNothing") }];
  }),
);
</script>

<template>
  <div class="belts">
    <div class="line">
      <strong class="figure">{{
        t("beltsNOfAll", { n: good.length, all: children.length })
      }}</strong>
      <v-btn color="primary" size="large" :disabled="!good.length" @click="emit('take', good)">
        {{ t("takeNPulseNow", good.length) }}
      </v-btn>
      <v-select
        v-model="trouble"
        class="wide"
        :aria-label="t('howTheSimulatedBeltsBehave')"
        :prefix="t('simulatedBelts')"
        :items="BELT_TROUBLES.map((one) => ({ value: one.code, title: one.words }))"
      />
    </div>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <p v-if="odd.length" role="status">
      {{ t("notAccepted") }}
      <span v-for="one in odd" :key="one.name" class="odd">
        <strong>{{ one.name }}</strong> {{ one.words }}
      </span>
    </p>
  </div>
</template>

<style scoped>
.odd::after {
  content: "; ";
}
.odd:last-child::after {
  content: ".";
}
</style>
