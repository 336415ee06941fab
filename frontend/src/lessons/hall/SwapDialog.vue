<script setup lang="ts">
/** Something else instead of what is planned, from now on. */
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { computed, nextTick, ref, useTemplateRef, watch } from "vue";
import { answer, client } from "../../api/client";
import { useTests } from "../../catalogue/useTests";
import { useConductor } from "./clock/useConductor";
import type { Hall } from "./useHall";

const props = defineProps<{ hall: Hall; lessonId: string }>();
const open = defineModel<boolean>({ required: true });
const lead = useConductor();
const queries = useQueryClient();
const tests = useTests(open);
const instead = ref("");
const station = ref("");
const field = useTemplateRef<HTMLInputElement>("field");
const { segment } = props.hall;
const block = computed(() => lead.plan.value?.blocks[segment.value?.block ?? -1]);
const stations = computed(() => block.value?.rotation?.stations ?? null);
const isTest = computed(() => block.value?.kind === "test");

watch(open, (is) => {
  if (!is) return;
  instead.value = "";
  station.value = stations.value?.[0] ?? "";
  swapping.reset();
  void nextTick(() => field.value?.focus());
});
const swapping = useMutation({
  async mutationFn() {
    const label = instead.value.trim();
    if (!label) throw new Error("Say what is done instead.");
    const activity = isTest.value ? await added(label) : null;
    const seconds = activity ? (chosen.value?.seconds ?? null) : null;
    lead.swap(label, activity, { seconds, ...(stations.value && { station: station.value }) });
  },
  onSuccess: () => (open.value = false),
});
const chosen = computed(() =>
  isTest.value ? tests.data.value?.find((one) => one.name === instead.value.trim()) : undefined,
);
async function added(label: string): Promise<string> {
  const test = tests.data.value?.find((one) => one.name === label);
  if (!test) throw new Error("Choose a test of the catalogue: its scores need a protocol.");
  const params = { path: { lesson_id: props.lessonId } };
  const body = { test_id: test.id };
  const made = await answer(client.POST("/api/lessons/{lesson_id}/activities", { params, body }));
  await queries.invalidateQueries({ queryKey: ["lesson", props.lessonId] });
  return made.id;
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-label="Swap">
    <form class="board stack" @submit.prevent="swapping.mutate()">
      <h2>Instead of {{ stations ? "a station" : isTest ? block?.label : segment?.label }}</h2>
      <label v-if="stations" class="labelled">
        Station
        <select v-model="station" class="field">
          <option v-for="one in stations" :key="one" :value="one">{{ one }}</option>
        </select>
      </label>
      <label class="labelled">
        {{ isTest ? "Test that is done instead, from now on" : "What is done from now on" }}
        <input
          ref="field"
          v-model="instead"
          class="field"
          maxlength="80"
          autocomplete="off"
          :list="isTest ? 'all-tests' : undefined"
        />
      </label>
      <datalist id="all-tests">
        <option v-for="one in tests.data.value" :key="one.id" :value="one.name" />
      </datalist>
      <p v-if="isTest" class="quiet" data-testid="clock-after">
        <template v-if="chosen?.seconds"
          >Each go is {{ chosen.seconds }} s from now on, as this test is.</template
        ><template v-else-if="chosen">This test has no clock: go on when all are in.</template
        ><template v-else>Each go is as long as the test that you choose.</template>
        A go that is on begins again from its get-ready.
      </p>
      <p v-else class="quiet">
        The clock stays as it is; use + 15 s or Skip to change it. The record says what was really
        done.
      </p>
      <p v-if="swapping.error.value" role="alert" class="problem">
        {{ swapping.error.value.message }}
      </p>
      <div class="line">
        <v-btn type="submit" color="primary" :loading="swapping.isPending.value">Swap</v-btn>
        <v-btn variant="outlined" @click="open = false">Not now</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
