<script setup lang="ts">
/** Groups of the class for a stations block: by house, at random, or balanced on earlier scores;
 * then single children moved by hand. */
import Fold from "../../parts/Fold.vue";
import { t } from "../../messages/lessons";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../../api/client";
import { useTests } from "../../catalogue/useTests";
import { useClass, useClassLessons } from "../../people/useClass";
import { useLesson } from "../useLesson";

const props = defineProps<{ groups: Schemas["Groups"] | null; stations: number }>();
const emit = defineEmits<{ made: [groups: Schemas["Groups"]] }>();
const { lesson } = useLesson();
const number = ref(props.groups?.names.length ?? props.stations);
const test = ref(lesson.value?.activities[0]?.test_id ?? "");
const classId = lesson.value?.class_id ?? "";
const words = ref("");
const problem = ref("");
let seed = Math.floor(Date.now() / 1000) % 100_000;

const all = useTests();
const past = useClassLessons(classId);
/** What the class was tested in: only there are scores to balance on. */
const tests = computed(() => {
  const known = new Set(past.data.value?.flatMap((one) => one.tests));
  return all.data.value?.filter((one) => known.has(one.name)) ?? [];
});
const children = useClass(classId);
const own = computed(() => children.data.value?.pupils.some((one) => one.group) ?? false);
/** The children of today's class by group, and last those who are in none: they came later. */
const columns = computed(() => {
  const { names, members } = props.groups ?? { names: [], members: [] };
  const pupils = children.data.value?.pupils ?? [];
  const groups = names.map((name, place) => ({
    name,
    place: String(place),
    pupils: pupils.filter((one) => members[place]?.includes(one.id)),
  }));
  const put = new Set(members.flat());
  const late = pupils.filter((one) => !put.has(one.id));
  return late.length ? [...groups, { name: t("newGroupsMade"), place: "", pupils: late }] : groups;
});
function move(child: string, to: number) {
  if (!props.groups) return;
  const members = props.groups.members.map((ids) => ids.filter((id) => id !== child));
  members[to]?.push(child);
  words.value = t("groupsChangedByHand");
  emit("made", { how: "hand", names: props.groups.names, members });
}
const sizes = computed(() => columns.value.map((one) => `${one.name}: ${one.pupils.length}`));
async function make(how: "house" | "own" | "random" | "balanced") {
  problem.value = "";
  seed += 1;
  try {
    const answered = await answer(
      client.POST("/api/lessons/{lesson_id}/plan/groups", {
        params: { path: { lesson_id: lesson.value?.id ?? "" } },
        body: {
          how,
          number: number.value,
          seed,
          test_id: how === "balanced" ? test.value || null : null,
        },
      }),
    );
    words.value = answered.words;
    emit("made", { how, names: answered.names, members: answered.members });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <fieldset class="line maker">
    <legend>{{ t("groups") }}</legend>
    <v-btn variant="outlined" @click="make('house')">{{ t("byHouse") }}</v-btn>
    <v-btn v-if="own" variant="outlined" @click="make('own')">{{
      t("groupsFromTheClassList")
    }}</v-btn>
    <v-text-field
      v-model.number="number"
      class="num"
      type="number"
      min="2"
      max="12"
      :label="t('howManyGroups')"
    />
    <v-btn variant="outlined" @click="make('random')">{{ t("random") }}</v-btn>
    <v-btn variant="outlined" :disabled="!test" @click="make('balanced')">{{
      t("balancedBy")
    }}</v-btn>
    <v-select
      v-model="test"
      :label="t('testToBalanceTheGroupsBy')"
      :items="[
        { value: '', title: tests.length ? t('chooseATest') : t('noTestYet') },
        ...tests.map((one) => ({ value: one.id, title: one.name })),
      ]"
    />
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <p v-else role="status" class="quiet">
      {{ sizes.length ? sizes.join(" · ") : t("noGroupsYet") }} {{ words }}
    </p>
    <Fold v-if="groups" class="by-hand">
      <template #title>{{ t("moveAChild") }}</template>
      <div class="columns">
        <section v-for="column in columns" :key="column.place">
          <h3 class="figure">{{ column.name }}</h3>
          <v-select
            v-for="child in column.pupils"
            :key="child.id"
            class="child"
            :model-value="column.place"
            :aria-labelledby="undefined"
            :aria-label="t('groupOfName', { name: child.name })"
            :label="child.name"
            :items="[
              ...(!column.place ? [{ value: '', title: t('choose2') }] : []),
              ...groups.names.map((name, to) => ({ value: String(to), title: name })),
            ]"
            @update:model-value="move(child.id, Number($event))"
          />
        </section>
      </div>
    </Fold>
  </fieldset>
</template>

<style scoped>
.maker {
  border: var(--line-2) solid var(--rule);
  border-radius: var(--radius);
  padding: var(--gap-4) var(--gap-12) var(--gap-8);
  flex-basis: 100%;
}
.maker legend {
  font-weight: 700;
  padding: 0 var(--gap-8);
}
.num {
  width: 72px;
}
.by-hand {
  flex-basis: 100%;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: var(--gap-8) var(--gap-16);
}
.columns h3 {
  font-size: var(--type-24);
}
.child {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--gap-8);
  border-top: var(--line-2) solid var(--rule);
  padding: var(--gap-4) 0;
}
</style>
