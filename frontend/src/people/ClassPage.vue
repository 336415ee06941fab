<script setup lang="ts">
import PageHead from "../parts/PageHead.vue";
import Fold from "../parts/Fold.vue";
import { t } from "../messages/people";
import { moveTo } from "./moveTo";
import { useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import ClassTabs from "../parts/ClassTabs.vue";
import LoadState from "../parts/LoadState.vue";
import { clockTime, shortDay } from "../parts/words";
import SortHead from "../parts/table/SortHead.vue";
import { useTableSort } from "../parts/table/useTableSort";
import { EXCLUSIONS } from "../api/vocabulary";
import CareForm from "./CareForm.vue";
import ClassGroups from "./ClassGroups.vue";
import ClassSettings from "./ClassSettings.vue";
import PupilForm from "./PupilForm.vue";
import PupilRecord from "./PupilRecord.vue";
import { useClass, useClassLessons } from "./useClass";

const props = defineProps<{ classId: string }>();
const lessons = useClassLessons(props.classId);
const page = useClass(props.classId);
const queries = useQueryClient();
const ordering = ref(false);
const { sorted, sortBy, directionOf } = useTableSort(() => page.data.value?.pupils, {
  child: (one) => one.name,
  house: (one) => houseAndGroup(one),
  born: (one) => one.born,
});
/** While the class's own order is changed, it is the one that is shown. */
const rows = computed(() => (ordering.value ? page.data.value?.pupils : sorted.value));
function houseAndGroup(pupil: Schemas["PupilRow"]): string {
  return [pupil.house, pupil.group].filter(Boolean).join(" · ");
}
/** The child that is changed, or "new"; what of it. */
const edited = ref<string | null>(null);
const part = ref<"details" | "care" | "record">("details");
function edit(id: string | null, what: typeof part.value = "details") {
  edited.value = id;
  part.value = what;
}
const settings = ref(false);
const grouping = ref(false);
const CARE = Object.fromEntries(EXCLUSIONS.map((one) => [one.code, one.words]));
/** What a child is kept from, and what its family has not decided yet. */
function careOf(pupil: Schemas["PupilRow"]): string {
  const words = pupil.exclusions.map((one) => t("notAllowedToWhat", { what: CARE[one.what] }));
  if (pupil.measuring === "refused") words.push(t("notToBeMeasured"));
  return words.join("; ");
}
const problem = ref("");
async function keepOrder(pupils: string[]) {
  problem.value = "";
  try {
    const params = { path: { class_id: props.classId } };
    const kept = await answer(
      client.PUT("/api/classes/{class_id}/order", { params, body: { pupils } }),
    );
    queries.setQueryData(["class", props.classId], kept);
    await queries.invalidateQueries({ queryKey: ["lanes"] });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function takeBack(pupil_id: string) {
  problem.value = "";
  try {
    await moveTo(props.classId, pupil_id);
    await queries.invalidateQueries();
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function move(from: number, to: number) {
  const ids = page.data.value?.pupils.map((one) => one.id) ?? [];
  if (to < 0 || to >= ids.length) return;
  const [one] = ids.splice(from, 1);
  if (one) ids.splice(to, 0, one);
  await keepOrder(ids);
}
function onKey(event: KeyboardEvent, index: number) {
  const to = { ArrowUp: index - 1, ArrowDown: index + 1 }[event.key];
  if (!ordering.value || !event.altKey || to === undefined) return;
  event.preventDefault();
  void move(index, to);
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="page.data.value?.name ?? t('class')">
      <template v-if="page.data.value" #facts>
        {{ page.data.value.year_group }} ·
        {{ t("nChild", page.data.value.pupils.length) }}
        <template v-if="page.data.value.teachers.length">
          · {{ page.data.value.teachers.map((one) => one.name).join(", ") }}
        </template>
      </template>
      <template #beside><ClassTabs :class-id="classId" /></template>
      <v-btn color="primary" :to="{ name: 'new-lesson', query: { class: classId } }">
        {{ t("newLesson") }}
      </v-btn>
    </PageHead>
    <LoadState :query="page">
      <template v-if="page.data.value">
        <p v-if="page.data.value.closed_on" class="board">
          {{ t("thisClassMovedUpOnDay", { day: shortDay(page.data.value.closed_on) }) }}
        </p>
        <ClassSettings v-if="settings" :page="page.data.value" class="mb-4" />
        <div class="head">
          <h2>{{ t("lessons") }}</h2>
          <div class="line">
            <v-btn variant="outlined" :href="`/api/classes/${classId}/scores.xlsx`" download>
              {{ t("scoresXlsx") }}
            </v-btn>
            <v-btn variant="outlined" :aria-expanded="settings" @click="settings = !settings">
              {{ t("classAndTimetable") }}
            </v-btn>
          </div>
        </div>
        <p v-if="lessons.data.value && !lessons.data.value.length" class="quiet">
          {{ t("noLessonsYetPressNewLesson") }}
        </p>
        <ul class="lessons">
          <li v-for="lesson in lessons.data.value" :key="lesson.id">
            <RouterLink
              :to="{ name: lesson.battery ? 'hall' : 'results', params: { lessonId: lesson.id } }"
            >
              {{ shortDay(lesson.starts_at) }}, {{ clockTime(lesson.starts_at) }}
            </RouterLink>
            {{ lesson.battery ?? lesson.tests.join(", ") }}
            <span class="quiet">{{ lesson.closed ? t("closed") : t("open") }}</span>
          </li>
        </ul>
        <div class="line mt-4">
          <h2>{{ t("children") }}</h2>
          <span class="space" />
          <template v-if="!ordering">
            <v-btn variant="outlined" :aria-expanded="grouping" @click="grouping = !grouping">
              {{ t("groups") }}
            </v-btn>
            <v-btn variant="outlined" @click="ordering = true">{{ t("classOrder") }}</v-btn>
            <v-btn v-if="page.data.value.may_change" color="primary" @click="edit('new')">
              {{ t("addAChild") }}
            </v-btn>
          </template>
          <template v-else>
            <span class="quiet">
              <i18n-t keypath="people.moveAChildSoDoesKey" scope="global"
                ><template #key
                  ><kbd>{{ t("alt") }}</kbd></template
                ></i18n-t
              >
            </span>
            <v-btn variant="outlined" @click="keepOrder([])">{{ t("sortByName") }}</v-btn>
            <v-btn color="primary" @click="ordering = false">{{ t("done") }}</v-btn>
          </template>
        </div>
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <ClassGroups
          v-if="grouping"
          :page="page.data.value"
          class="mb-2"
          @done="grouping = false"
        />
        <PupilForm
          v-if="edited === 'new'"
          :page="page.data.value"
          :pupil="null"
          @done="edit(null)"
        />
        <div class="board scroll">
          <v-table class="middle dense">
            <thead>
              <tr>
                <SortHead
                  :words="t('child')"
                  :direction="directionOf('child')"
                  @sort="sortBy('child')"
                />
                <SortHead
                  :words="t('houseGroup')"
                  :direction="directionOf('house')"
                  @sort="sortBy('house')"
                />
                <SortHead
                  :words="t('born')"
                  :direction="directionOf('born')"
                  @sort="sortBy('born')"
                />
                <th scope="col">{{ t("medicalNoteCare") }}</th>
                <th scope="col">
                  <span class="sr-only">{{ t("actions") }}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              <template v-for="(pupil, index) in rows" :key="pupil.id">
                <tr v-if="edited === pupil.id">
                  <td :colspan="5">
                    <PupilForm
                      v-if="part === 'details'"
                      :page="page.data.value"
                      :pupil="pupil"
                      @done="edit(null)"
                    />
                    <CareForm v-else-if="part === 'care'" :pupil="pupil" @done="edit(null)" />
                    <PupilRecord v-else :pupil="pupil" @done="edit(null)" />
                  </td>
                </tr>
                <tr v-else @keydown="onKey($event, index)">
                  <td>
                    <template v-if="ordering">
                      <v-btn
                        variant="text"
                        :aria-label="t('moveWhatUp', { what: pupil.name })"
                        :disabled="index === 0"
                        @click="move(index, index - 1)"
                        >↑</v-btn
                      >
                      <v-btn
                        variant="text"
                        :aria-label="t('moveWhatDown', { what: pupil.name })"
                        :disabled="index === page.data.value.pupils.length - 1"
                        @click="move(index, index + 1)"
                        >↓</v-btn
                      >
                    </template>
                    <RouterLink :to="{ name: 'pupil', params: { pupilId: pupil.id } }">
                      {{ pupil.name }}
                    </RouterLink>
                  </td>
                  <td>{{ houseAndGroup(pupil) }}</td>
                  <td>{{ pupil.born ? shortDay(pupil.born) : t("notKnown") }}</td>
                  <td>
                    {{ pupil.medical_note }}
                    <span v-if="careOf(pupil)" class="kept-from">⊘ {{ careOf(pupil) }}</span>
                  </td>
                  <td class="acts">
                    <template v-if="page.data.value.may_change">
                      <v-btn
                        size="small"
                        variant="text"
                        :aria-label="t('editChild', { child: pupil.name })"
                        @click="edit(pupil.id)"
                      >
                        {{ t("edit") }}
                      </v-btn>
                      <v-btn
                        size="small"
                        variant="text"
                        :aria-label="t('recordOfChild', { child: pupil.name })"
                        @click="edit(pupil.id, 'record')"
                      >
                        {{ t("record") }}
                      </v-btn>
                    </template>
                    <v-btn
                      size="small"
                      variant="text"
                      :aria-label="t('careForChild', { child: pupil.name })"
                      @click="edit(pupil.id, 'care')"
                    >
                      {{ t("care") }}
                    </v-btn>
                  </td>
                </tr>
              </template>
            </tbody>
          </v-table>
        </div>
        <Fold v-if="page.data.value.leavers.length" class="left">
          <template #title>{{ t("leftN", { n: page.data.value.leavers.length }) }}</template>
          <ul class="leavers">
            <li v-for="one in page.data.value.leavers" :key="one.id" class="line">
              <RouterLink :to="{ name: 'pupil', params: { pupilId: one.id } }">
                {{ one.name }}
              </RouterLink>
              <span class="quiet">{{ t("leftDay", { day: shortDay(one.left_on) }) }}</span>
              <v-btn size="small" variant="outlined" @click="takeBack(one.id)">
                {{ t("backToThisClass") }}
              </v-btn>
            </li>
          </ul>
        </Fold>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.space {
  flex: 1;
}
.board :deep(td) {
  vertical-align: middle;
}
.kept-from {
  display: block;
  color: rgb(var(--v-theme-warning));
  font-weight: 700;
}
.acts {
  white-space: nowrap;
  text-align: right;
}
.left {
  margin-top: var(--gap-12);
}
.leavers {
  list-style: none;
  padding: 0;
}
.lessons {
  list-style: none;
  padding: 0;
  columns: 2 340px;
  margin-bottom: var(--gap-12);
}
.lessons li {
  padding: var(--gap-8) 0;
  border-bottom: var(--line-2) solid var(--rule);
  break-inside: avoid;
}
</style>
