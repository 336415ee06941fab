<script setup lang="ts">
/** Plans to begin from, this one kept as such, and the same lesson again as a retest. */
import { t } from "../../messages/lessons";
import { tell } from "../../parts/form/tell";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../../api/client";
import { ask } from "../../parts/form/ask";
import { useOwnId } from "../../parts/form/useOwnId";

const props = defineProps<{ lessonId: string }>();
const emit = defineEmits<{
  propose: [proposal: { title: string; page: Schemas["PlanPage"] }];
  problem: [words: string];
}>();
const router = useRouter();
const queries = useQueryClient();
const params = { path: { lesson_id: props.lessonId } };
const retestAt = ref("");
const retestId = useOwnId(retestAt);
const template = ref("");
const templateName = ref("");
const templates = useQuery({
  queryKey: ["templates"],
  queryFn: () => answer(client.GET("/api/templates")),
});
const chosen = computed(() => templates.data.value?.find((one) => one.code === template.value));

async function useTemplate() {
  emit("problem", "");
  try {
    const body = { code: template.value };
    const answered = await answer(
      client.POST("/api/lessons/{lesson_id}/plan/template", { params, body }),
    );
    emit("propose", { title: chosen.value?.name ?? t("createdFromATemplate"), page: answered });
  } catch (error) {
    emit("problem", (error as Error).message);
  }
}
async function saveTemplate() {
  emit("problem", "");
  try {
    const body = { name: templateName.value };
    const answered = await answer(
      client.POST("/api/lessons/{lesson_id}/template", { params, body }),
    );
    queries.setQueryData(["templates"], answered);
    tell(t("nameIsNowATemplate", { name: templateName.value.trim() }));
    templateName.value = "";
  } catch (error) {
    emit("problem", (error as Error).message);
  }
}
async function removeTemplate() {
  const one = chosen.value;
  const question = {
    title: t("deleteTheTemplateName", { name: one?.name }),
    words: t("lessonsMadeFromItStayYou"),
    yes: t("delete"),
  };
  if (!one || !(await ask(question))) return;
  try {
    const path = { code: one.code };
    const answered = await answer(client.DELETE("/api/templates/{code}", { params: { path } }));
    queries.setQueryData(["templates"], answered);
    template.value = "";
  } catch (error) {
    emit("problem", (error as Error).message);
  }
}
async function copy() {
  try {
    const body = { id: retestId.value, starts_at: new Date(retestAt.value).toISOString() };
    const made = await answer(client.POST("/api/lessons/{lesson_id}/copy", { params, body }));
    await router.push({ name: "plan", params: { lessonId: made.id } });
  } catch (error) {
    emit("problem", (error as Error).message || t("chooseADayAndTimeFor"));
  }
}
</script>

<template>
  <div class="stack">
    <section class="board no-print">
      <h2>{{ t("templates") }}</h2>
      <div class="line">
        <v-select
          v-model="template"
          class="choose"
          :aria-label="t('template')"
          :items="[
            { value: '', title: t('chooseATemplate') },
            ...(templates.data.value ?? []).map((one) => ({
              value: one.code,
              title: t('nameMinutesMinOwn', {
                name: one.name,
                minutes: one.minutes,
                own: one.own ? t('own') : '',
              }),
            })),
          ]"
        />
        <v-btn variant="outlined" :disabled="!template" @click="useTemplate">{{
          t("useTemplate")
        }}</v-btn>
        <v-btn v-if="chosen?.mine" variant="text" @click="removeTemplate">{{ t("delete") }}</v-btn>
      </div>
      <form class="line mt-2" @submit.prevent="saveTemplate">
        <v-text-field
          v-model="templateName"
          class="choose"
          maxlength="60"
          :placeholder="t('name')"
          :aria-label="t('nameOfTheTemplate')"
        />
        <v-btn type="submit" variant="outlined" :disabled="!templateName.trim()">
          {{ t("saveAsTemplate") }}
        </v-btn>
      </form>
    </section>
    <section class="board no-print">
      <h2>{{ t("retest") }}</h2>
      <p class="quiet">{{ t("theSameBlocksRulesAndConditions") }}</p>
      <div class="line mt-2">
        <v-text-field
          v-model="retestAt"
          type="datetime-local"
          :aria-label="t('dayAndTimeOfTheRetest')"
        />
        <v-btn variant="outlined" :disabled="!retestAt" @click="copy">{{ t("copyLesson") }}</v-btn>
      </div>
    </section>
  </div>
</template>

<style scoped>
.choose {
  flex: 1;
  min-width: 0;
}
</style>
