<script setup lang="ts">
/** Certificates: proposed by stated rules, agreed to and worded by the teacher. */
import { choices } from "../parts/form/choices";
import { t } from "../messages/exchange";
import { useQuery } from "@tanstack/vue-query";
import { computed, reactive, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import HandoutFile from "../parts/files/HandoutFile.vue";
import { useHandout } from "../parts/files/useHandout";

const props = defineProps<{ classId: string }>();
const path = { class_id: props.classId };
const page = useQuery({
  queryKey: ["awards", props.classId],
  queryFn: () => answer(client.GET("/api/classes/{class_id}/awards", { params: { path } })),
});
const AWARDS: Record<Schemas["Award"], string> = {
  new_best: t("newBest"),
  rung: t("reachedARung"),
  improver: t("mostImproved"),
  kept_trying: t("keptTrying"),
  all_tests: t("tookPartInEverything"),
};
const DRAWINGS: Record<Schemas["Drawing"], string> = {
  pennant: t("aPennant"),
  lanes: "lanes",
  steps: "steps",
};
const award = ref<Schemas["Award"]>("new_best");
const title = ref(t("wellDone"));
const drawing = ref<Schemas["Drawing"]>("pennant");
/** A row a proposal of the chosen kind; the words are the teacher's once they are changed. */
const rows = computed(() =>
  (page.data.value?.children ?? []).flatMap((child) =>
    child.proposals
      .filter((one) => one.award === award.value)
      .map((one) => ({ ...child, words: one.words, key: `${child.pupil_id} ${one.words}` })),
  ),
);
const rule = computed(
  () => page.data.value?.rules.find((one) => one.award === award.value)?.words ?? "",
);
const left = reactive(new Set<string>());
const worded = reactive<Record<string, string>>({});
const chosen = computed(() => rows.value.filter((one) => !left.has(one.key)));
function toggle(key: string) {
  if (!left.delete(key)) left.add(key);
}
const { current, problem, busy, begin } = useHandout();
const make = () =>
  begin(() =>
    answer(
      client.POST("/api/classes/{class_id}/certificates", {
        params: { path },
        body: {
          title: title.value,
          drawing: drawing.value,
          items: chosen.value.map((one) => ({
            pupil_id: one.pupil_id,
            words: worded[one.key] ?? one.words,
          })),
        },
      }),
    ),
  );
</script>

<template>
  <section class="board">
    <h2>{{ t("certificates") }}</h2>
    <LoadState :query="page">
      <div class="line">
        <v-select v-model="award" :label="t('reason')" :items="choices(AWARDS)" />
        <v-text-field v-model="title" maxlength="60" required :label="t('heading')" />
        <v-select v-model="drawing" :label="t('drawing')" :items="choices(DRAWINGS)" />
        <v-btn
          color="primary"
          size="large"
          :disabled="!chosen.length || !title.trim()"
          :loading="busy"
          @click="make"
        >
          {{ t("makeNCertificate", chosen.length) }}
        </v-btn>
      </div>
      <p class="quiet mt-2">{{ t("suggestedForRule", { rule }) }}</p>
      <HandoutFile :file="current" :problem="problem" />
      <p v-if="!rows.length" class="quiet">{{ t("nobodyThisTermForThatReason") }}</p>
      <v-table v-else class="middle">
        <thead>
          <tr>
            <th scope="col">{{ t("child") }}</th>
            <th scope="col">{{ t("result") }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.key">
            <th scope="row">
              <v-checkbox
                class="pick"
                :model-value="!left.has(row.key)"
                :label="row.name"
                @update:model-value="toggle(row.key)"
              />
            </th>
            <td>
              <v-text-field
                class="wide"
                maxlength="200"
                :aria-label="t('textOnTheCertificateOfChild', { child: row.name })"
                :model-value="worded[row.key] ?? row.words"
                @input="worded[row.key] = ($event.target as HTMLInputElement).value"
              />
            </td>
          </tr>
        </tbody>
      </v-table>
    </LoadState>
  </section>
</template>

<style scoped>
.pick {
  flex-wrap: nowrap;
  white-space: nowrap;
}
.wide {
  width: 100%;
  min-height: var(--control);
}
</style>
