<script setup lang="ts">
/** Groups of the class for a stations block: by house, at random, or balanced on earlier scores;
 * then single children moved by hand. */
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
    const said = await answer(
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
    words.value = said.words;
    emit("made", { how, names: said.names, members: said.members });
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
    <label class="line">
      <input
        v-model.number="number"
        class="field num"
        type="number"
        min="2"
        max="12"
        :aria-label="t('howManyGroups')"
      />
      {{ t("groups2") }}
    </label>
    <v-btn variant="outlined" @click="make('random')">{{ t("random") }}</v-btn>
    <v-btn variant="outlined" :disabled="!test" @click="make('balanced')">{{
      t("balancedBy")
    }}</v-btn>
    <select v-model="test" class="field" :aria-label="t('testToBalanceTheGroupsBy')">
      <option value="">{{ tests.length ? t("chooseATest") : t("noTestYet") }}</option>
      <option v-for="one in tests" :key="one.id" :value="one.id">{{ one.name }}</option>
    </select>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <p v-else role="status" class="quiet">
      {{ sizes.length ? sizes.join(" · ") : t("noGroupsYet") }} {{ words }}
    </p>
    <details v-if="groups" class="by-hand">
      <summary>{{ t("moveAChild") }}</summary>
      <div class="columns">
        <section v-for="column in columns" :key="column.place">
          <h3 class="figure">{{ column.name }}</h3>
          <label v-for="child in column.pupils" :key="child.id" class="child">
            <span>{{ child.name }}</span>
            <select
              class="field"
              :value="column.place"
              :aria-label="t('groupOfName', { name: child.name })"
              @change="move(child.id, Number(($event.target as HTMLSelectElement).value))"
            >
              <option v-if="!column.place" value="">{{ t("choose2") }}</option>
              <option v-for="(name, to) in groups.names" :key="to" :value="String(to)">
                {{ name }}
              </option>
            </select>
          </label>
        </section>
      </div>
    </details>
  </fieldset>
</template>

<style scoped>
.maker {
  border: 2px solid var(--rule);
  border-radius: 4px;
  padding: 4px 12px 8px;
  flex-basis: 100%;
}
.maker legend {
  font-weight: 700;
  padding: 0 6px;
}
.num {
  width: 72px;
}
.by-hand {
  flex-basis: 100%;
}
.by-hand summary {
  min-height: 44px;
  align-content: center;
  cursor: pointer;
  font-weight: 700;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 6px 18px;
}
.columns h3 {
  font-size: 1.35rem;
}
.child {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  border-top: 1px solid var(--rule);
  padding: 3px 0;
}
.child .field {
  max-width: 120px;
}
</style>
