<script setup lang="ts">
/** A child's hand or step, measured so that scores in it can be compared. */
import { t } from "../../messages/sheet";
import { useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { answer, client } from "../../api/client";
import { vFocus } from "../../parts/form/focus";
import { unitOf } from "./unit";

const props = defineProps<{ pupilId: string; name: string; typed: string; activityId: string }>();
const queries = useQueryClient();
const emit = defineEmits<{ done: [] }>();
const unit = unitOf(props.typed) || "hand";
const known = ref("1m");
const counted = ref("");
const problem = ref("");

async function keep() {
  problem.value = "";
  const number = Number(counted.value.replace(",", "."));
  if (!number) {
    problem.value = t(`${unit}Count`);
    return;
  }
  try {
    const body = { pupil_id: props.pupilId, unit, known: known.value, counted: number };
    await answer(client.POST("/api/calibrations", { body }));
    emit("done");
    await queries.invalidateQueries({ queryKey: ["lanes", props.activityId] });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <section class="board">
    <h2>{{ t(`${unit}Title`, { child: name }) }}</h2>
    <form class="line" @submit.prevent="keep">
      <label>
        {{ t("childNeeds", { child: name }) }}
        <input v-model="counted" v-focus class="field" size="4" :aria-label="t(`${unit}HowMany`)" />
        {{ t(`${unit}Units`) }}
      </label>
      <label
        >{{ t("for") }}
        <input v-model="known" class="field" size="6" :aria-label="t('knownDistance')"
      /></label>
      <v-btn type="submit" color="primary">{{ t("save") }}</v-btn>
      <span v-if="problem" role="alert" class="problem">{{ problem }}</span>
    </form>
  </section>
</template>
