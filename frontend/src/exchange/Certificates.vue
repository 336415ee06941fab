<script setup lang="ts">
/** Certificates: proposed by stated rules, agreed to and worded by the teacher. */
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
        <label class="labelled">
          {{ t("reason") }}
          <select v-model="award" class="field">
            <option v-for="(words, one) in AWARDS" :key="one" :value="one">{{ words }}</option>
          </select>
        </label>
        <label class="labelled">
          {{ t("heading") }} <input v-model="title" class="field" maxlength="60" required />
        </label>
        <label class="labelled">
          {{ t("drawing") }}
          <select v-model="drawing" class="field">
            <option v-for="(words, one) in DRAWINGS" :key="one" :value="one">{{ words }}</option>
          </select>
        </label>
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
      <table v-else class="plain middle">
        <thead>
          <tr>
            <th scope="col">{{ t("child") }}</th>
            <th scope="col">{{ t("result") }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.key">
            <th scope="row">
              <label class="line pick">
                <input type="checkbox" :checked="!left.has(row.key)" @change="toggle(row.key)" />
                {{ row.name }}
              </label>
            </th>
            <td>
              <input
                class="field wide"
                maxlength="200"
                :aria-label="t('textOnTheCertificateOfChild', { child: row.name })"
                :value="worded[row.key] ?? row.words"
                @input="worded[row.key] = ($event.target as HTMLInputElement).value"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </LoadState>
  </section>
</template>

<style scoped>
.pick {
  flex-wrap: nowrap;
  white-space: nowrap;
}
.pick input {
  width: 24px;
  height: 24px;
}
.wide {
  width: 100%;
  min-height: 36px;
}
</style>
