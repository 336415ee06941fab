<script setup lang="ts">
/** Every result file that came to the organiser, and what becomes of it. */
import { t } from "../messages/challenges";
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import Confirm from "../parts/form/Confirm.vue";
import { dayWords } from "../parts/words";

type File = Schemas["FileRow"];
const props = defineProps<{ page: Schemas["GamesPage"] }>();
const emit = defineEmits<{ changed: [page: Schemas["GamesPage"]] }>();
const know = useMutation({
  mutationFn: ({ school_id, known }: File) =>
    answer(
      client.PUT("/api/games/{games_id}/schools/{school_id}", {
        params: { path: { games_id: props.page.id, school_id } },
        body: { yes: !known },
      }),
    ),
  onSuccess: (page) => emit("changed", page),
});
const letIn = useMutation({
  mutationFn: ({ id, let_in }: File) =>
    answer(
      client.PUT("/api/games/{games_id}/results/{result_id}", {
        params: { path: { games_id: props.page.id, result_id: id } },
        body: { yes: !let_in },
      }),
    ),
  onSuccess: (page) => emit("changed", page),
});
/** The result that is to be removed, once that is confirmed. */
const leaving = ref<File | null>(null);
const remove = useMutation({
  mutationFn: ({ id }: File) =>
    answer(
      client.DELETE("/api/games/{games_id}/results/{result_id}", {
        params: { path: { games_id: props.page.id, result_id: id } },
      }),
    ),
  onSuccess: (page) => {
    leaving.value = null;
    emit("changed", page);
  },
});
const problem = computed(() => know.error.value ?? letIn.error.value ?? remove.error.value);
</script>

<template>
  <section v-if="page.files.length || page.notes.length" class="board files">
    <h2>{{ t("resultsReceived") }}</h2>
    <ul>
      <li v-for="one in page.files" :key="one.id" class="line" :data-state="one.state">
        <b>{{ one.school }}</b>
        <span>
          {{
            t("numberNumberDayWords", {
              number: one.number,
              day: dayWords(one.came_at),
              words: one.words,
            })
          }}
        </span>
        <span class="quiet">
          <i18n-t keypath="challenges.checkDigitsSpan" scope="global"
            ><template #span
              ><span class="figure">{{ one.check_digits }}</span></template
            ></i18n-t
          >
        </span>
        <template v-if="page.may_manage">
          <v-btn
            v-if="one.state === 'unknown'"
            color="primary"
            :loading="know.isPending.value"
            @click="know.mutate(one)"
          >
            {{ t("theDigitsMatch") }}
          </v-btn>
          <v-btn
            v-else-if="one.known && one.state === 'counts'"
            variant="text"
            :loading="know.isPending.value"
            @click="know.mutate(one)"
          >
            {{ t("theDigitsDoNotMatch") }}
          </v-btn>
          <v-btn
            v-if="one.state === 'late' || one.let_in"
            variant="outlined"
            :loading="letIn.isPending.value"
            @click="letIn.mutate(one)"
          >
            {{ one.let_in ? t("excludeIt") : t("includeIt") }}
          </v-btn>
          <v-btn variant="text" @click="leaving = one">{{ t("remove") }}</v-btn>
        </template>
      </li>
    </ul>
    <p v-if="page.files.some((one) => one.state === 'unknown')" class="quiet">
      {{ t("phoneTheSchoolAndAskFor") }}
    </p>
    <ul v-if="page.notes.length" class="notes">
      <li v-for="note in page.notes" :key="note.at + note.words">
        <b>{{ dayWords(note.at) }}</b> {{ note.words }}
      </li>
    </ul>
    <p v-if="problem" role="alert" class="problem">{{ problem.message }}</p>
    <Confirm
      v-if="leaving"
      :model-value="true"
      :title="t('removeResultNumberFromSchool', { number: leaving.number, school: leaving.school })"
      :words="t('itWillNoLongerCountThe')"
      :yes="t('removeResult')"
      @update:model-value="leaving = null"
      @yes="remove.mutate(leaving)"
    />
  </section>
</template>

<style scoped>
.files {
  margin-top: var(--gap-12);
}
.files ul {
  list-style: none;
  padding: 0;
}
.files li {
  border-top: var(--line-2) solid var(--rule);
  padding: var(--gap-4) 0;
  min-height: 48px;
}
.notes li {
  min-height: 0;
}
</style>
