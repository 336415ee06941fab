<script setup lang="ts">
/** Groups of the class for a stations block: by house, at random, or balanced on earlier scores. */
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { useLesson } from "./useLesson";

const props = defineProps<{ groups: Schemas["Groups"] | null; stations: number }>();
const emit = defineEmits<{ made: [groups: Schemas["Groups"]] }>();
const { lesson } = useLesson();
const number = ref(props.groups?.names.length ?? props.stations);
const test = ref(lesson.value?.activities[0]?.test_id ?? "");
const words = ref("");
const problem = ref("");
let seed = Math.floor(Date.now() / 1000) % 100_000;

const tests = computed(() => lesson.value?.activities ?? []);
const sizes = computed(() =>
  (props.groups?.names ?? []).map(
    (name, place) => `${name}: ${props.groups?.members[place]?.length ?? 0}`,
  ),
);
async function make(how: "house" | "random" | "balanced") {
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
    <legend>Groups</legend>
    <v-btn variant="outlined" @click="make('house')">By house</v-btn>
    <label class="line">
      <input
        v-model.number="number"
        class="field num"
        type="number"
        min="2"
        max="12"
        aria-label="How many groups"
      />
      groups
    </label>
    <v-btn variant="outlined" @click="make('random')">At random</v-btn>
    <v-btn variant="outlined" :disabled="!test" @click="make('balanced')">Balanced on</v-btn>
    <select v-model="test" class="field" aria-label="Test to balance the groups on">
      <option v-for="one in tests" :key="one.id" :value="one.test_id">{{ one.test }}</option>
    </select>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <p v-else role="status" class="quiet">
      {{ sizes.length ? sizes.join(" · ") : "No groups made yet." }} {{ words }}
    </p>
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
</style>
