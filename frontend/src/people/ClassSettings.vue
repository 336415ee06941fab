<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** A class's name, year group and teachers (the head of PE), and its lessons of every week. */
import { t } from "../messages/people";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, reactive, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/form/ask";
import SettingFoot from "../parts/form/SettingFoot.vue";

const props = defineProps<{ page: Schemas["ClassPage"] }>();
const queries = useQueryClient();
const router = useRouter();
const DAYS = [
  t("monday"),
  t("tuesday"),
  t("wednesday"),
  t("thursday"),
  t("friday"),
  t("saturday"),
  t("sunday"),
];
const at = { params: { path: { class_id: props.page.id } } };
const school = useQuery({
  queryKey: ["school"],
  queryFn: () => answer(client.GET("/api/school")),
  enabled: props.page.may_change,
});
const staff = computed(() => school.data.value?.staff.filter((one) => one.is_active) ?? []);
const form = reactive({
  name: props.page.name,
  year_group_id: props.page.year_group_id,
  teacher_ids: props.page.teachers.map((one) => one.id),
});
const keeping = useMutation({
  mutationFn: () => answer(client.PUT("/api/classes/{class_id}", { ...at, body: { ...form } })),
  onSuccess: () => queries.invalidateQueries(),
});
const removing = useMutation({
  async mutationFn() {
    const sure = await ask({
      title: t("deleteWhat", { what: props.page.name }),
      words: t("onlyAClassWithoutChildrenAnd"),
      yes: t("deleteClass"),
    });
    if (!sure) return;
    await answer(client.DELETE("/api/classes/{class_id}", at));
    await router.push({ name: "classes" });
    await queries.invalidateQueries();
  },
});
const kept = useQuery({
  queryKey: ["timetable", props.page.id],
  queryFn: () => answer(client.GET("/api/classes/{class_id}/timetable", at)),
});
type Row = {
  weekday: number;
  at: string;
  minutes: number;
  place: string;
  teacher_id: string | null;
};
const rows = ref<Row[]>([]);
watch(
  () => kept.data.value,
  (found) => (rows.value = (found ?? []).map((one) => ({ ...one }))),
  { immediate: true },
);
function add() {
  const last = rows.value.at(-1);
  rows.value.push({
    weekday: last ? Math.min(4, last.weekday + 1) : 0,
    at: last?.at ?? "09:00",
    minutes: last?.minutes ?? 45,
    place: last?.place ?? t("hall"),
    teacher_id: null,
  });
}
const planning = useMutation({
  mutationFn: () =>
    answer(client.PUT("/api/classes/{class_id}/timetable", { ...at, body: { rows: rows.value } })),
  async onSuccess(found) {
    queries.setQueryData(["timetable", props.page.id], found);
    await queries.invalidateQueries({ queryKey: ["today"] });
  },
});
</script>

<template>
  <div class="stack">
    <form v-if="page.may_change" class="board fields" @submit.prevent="keeping.mutate()">
      <div class="line">
        <v-text-field v-model="form.name" maxlength="40" required :label="t('name')" />
        <v-select
          v-model="form.year_group_id"
          :label="t('yearGroup')"
          :items="
            (school.data.value?.year_groups ?? []).map((one) => ({
              value: one.id,
              title: one.name,
            }))
          "
        />
      </div>
      <fieldset>
        <legend>{{ t("taughtBy") }}</legend>
        <v-checkbox
          v-for="one in staff"
          :key="one.id"
          v-model="form.teacher_ids"
          class="mr-4"
          :value="one.id"
          :label="one.name"
        />
      </fieldset>
      <SettingFoot
        :error="keeping.error.value ?? removing.error.value"
        :pending="keeping.isPending.value"
        :kept="keeping.isSuccess.value"
      >
        <v-btn variant="text" type="button" @click="removing.mutate()">{{
          t("deleteClass")
        }}</v-btn>
      </SettingFoot>
    </form>
    <form class="board fields" @submit.prevent="planning.mutate()">
      <h2>{{ t("weeklyLessons") }}</h2>
      <p v-if="!rows.length" class="quiet">
        {{ t("noWeeklyLessonsYetLessonsYou") }}
      </p>
      <ol class="rows">
        <li v-for="(row, n) in rows" :key="n">
          <v-select
            v-model="row.weekday"
            :aria-label="t('dayOfLessonN', { n: n + 1 })"
            :items="DAYS.map((day, number) => ({ value: number, title: day }))"
          />
          <v-text-field
            v-model="row.at"
            type="time"
            required
            :aria-label="t('timeOfLessonN', { n: n + 1 })"
          />
          <v-text-field
            v-model.number="row.minutes"
            class="day"
            type="number"
            min="5"
            max="240"
            :suffix="t('min')"
            :aria-label="t('minutesOfLessonN', { n: n + 1 })"
          />
          <v-text-field
            v-model="row.place"
            class="name"
            maxlength="60"
            :aria-label="t('placeOfLessonN', { n: n + 1 })"
          />
          <v-btn
            :icon="mdiClose"
            variant="text"
            type="button"
            :aria-label="t('removeLessonN', { n: n + 1 })"
            @click="rows.splice(n, 1)"
          />
        </li>
      </ol>
      <SettingFoot
        :error="planning.error.value"
        :pending="planning.isPending.value"
        :kept="planning.isSuccess.value"
      >
        <v-btn type="button" variant="outlined" @click="add">{{ t("addLesson") }}</v-btn>
      </SettingFoot>
    </form>
  </div>
</template>

<style scoped src="../parts/form/settings.css"></style>
