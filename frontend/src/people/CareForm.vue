<script setup lang="ts">
/** What the family has said to height and weight, and what a child is not to do. */
import { t } from "../messages/people";
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { reactive } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { EXCLUSIONS } from "../api/vocabulary";

const props = defineProps<{ pupil: Schemas["PupilRow"] }>();
const emit = defineEmits<{ done: [] }>();
const queries = useQueryClient();
type What = (typeof EXCLUSIONS)[number]["code"];
const form = reactive({
  measuring: props.pupil.measuring,
  /** By what: whether it is so, and the last day (empty: without an end). */
  kept: Object.fromEntries(
    EXCLUSIONS.map(({ code }) => {
      const held = props.pupil.exclusions.find((one) => one.what === code);
      return [code, { on: held !== undefined, until: held?.until ?? "" }];
    }),
  ) as Record<What, { on: boolean; until: string }>,
});
const keeping = useMutation({
  async mutationFn() {
    const exclusions = EXCLUSIONS.filter(({ code }) => form.kept[code].on).map(({ code }) => ({
      what: code,
      until: form.kept[code].until || null,
    }));
    const params = { path: { pupil_id: props.pupil.id } };
    const body = { measuring: form.measuring, exclusions };
    await answer(client.PUT("/api/pupils/{pupil_id}/care", { params, body }));
    await queries.invalidateQueries();
    emit("done");
  },
});
</script>

<template>
  <form class="board care" @submit.prevent="keeping.mutate()">
    <h3 class="figure">{{ t("childCare", { child: pupil.name }) }}</h3>
    <v-select
      v-model="form.measuring"
      :label="t('heightAndWeightTheFamilyHas')"
      :items="[
        { value: '', title: t('notBeenAskedYet') },
        { value: 'given', title: t('agreed') },
        { value: 'refused', title: t('notAgreed') },
      ]"
    />
    <fieldset>
      <legend>{{ t("notAllowedTo") }}</legend>
      <div v-for="one in EXCLUSIONS" :key="one.code" class="line">
        <v-checkbox v-model="form.kept[one.code].on" :label="one.words" />
        <v-text-field
          v-if="form.kept[one.code].on"
          v-model="form.kept[one.code].until"
          type="date"
          :aria-labelledby="undefined"
          :aria-label="t('notAllowedToWhatUntilLeave', { what: one.words })"
          :label="t('until')"
        />
      </div>
    </fieldset>
    <p class="quiet">
      {{ t("whatTheFamilyTheNurseOr") }}
    </p>
    <p v-if="keeping.error.value" role="alert" class="problem">{{ keeping.error.value.message }}</p>
    <div class="line">
      <v-btn type="submit" color="primary" :loading="keeping.isPending.value">{{
        t("save")
      }}</v-btn>
      <v-btn variant="text" @click="emit('done')">{{ t("cancel") }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
.care {
  display: grid;
  gap: var(--gap-8);
  margin: var(--gap-8) 0;
}
fieldset {
  border: 0;
  padding: 0;
}
</style>
