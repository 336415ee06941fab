<script setup lang="ts">
/** The weeks of challenges, and making a new one. */
import { useQuery } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { dayWords } from "../parts/words";
import { POINT_RULES } from "../api/vocabulary";

const router = useRouter();
const query = useQuery({
  queryKey: ["weeks"],
  queryFn: () => answer(client.GET("/api/weeks")),
  staleTime: 0,
});
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const making = ref(false);
const problem = ref("");
const form = reactive({
  name: "",
  starts_on: iso(0),
  ends_on: iso(4),
  class_ids: [] as string[],
  points: { took_part: 1, beat_own_best: 2, reached_rung: 2, beat_rival: 3 },
});
function iso(days: number): string {
  const day = new Date();
  day.setDate(day.getDate() + days);
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;
}
async function make() {
  problem.value = "";
  try {
    const week = await answer(client.POST("/api/weeks", { body: form }));
    await router.push({ name: "week", params: { weekId: week.id } });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <header class="line top">
      <h1>Challenges</h1>
      <span class="space" />
      <v-btn variant="outlined" size="large" :to="{ name: 'warm-up' }">Warm-up game</v-btn>
      <v-btn color="primary" size="large" :aria-expanded="making" @click="making = !making">
        New week
      </v-btn>
    </header>
    <form v-if="making" class="board stack" @submit.prevent="make">
      <div class="line">
        <label class="labelled">
          Name <input v-model="form.name" class="field" maxlength="60" placeholder="Spring week" />
        </label>
        <label class="labelled">
          First day <input v-model="form.starts_on" class="field" type="date" />
        </label>
        <label class="labelled">
          Last day to try again <input v-model="form.ends_on" class="field" type="date" />
        </label>
      </div>
      <fieldset class="line">
        <legend>Classes</legend>
        <label v-for="one in classes.data.value?.classes" :key="one.id" class="line pick">
          <input v-model="form.class_ids" type="checkbox" :value="one.id" /> {{ one.name }}
        </label>
      </fieldset>
      <fieldset class="line">
        <legend>Points, each at most once a child and challenge; 0 gives none</legend>
        <label v-for="rule in POINT_RULES" :key="rule.code" class="line">
          {{ rule.words }}
          <input
            v-model.number="form.points[rule.code]"
            class="field num"
            type="number"
            min="0"
            max="20"
          />
        </label>
      </fieldset>
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <div class="line">
        <v-btn type="submit" color="primary" size="large">Make the week</v-btn>
        <v-btn variant="outlined" size="large" @click="making = false">Not now</v-btn>
      </div>
    </form>
    <LoadState :query="query">
      <p v-if="!query.data.value?.length" class="board">
        No week yet. A week has a challenge a day, each open to be tried again until its last day;
        the first and the best score are kept, and points are given by rules you set.
      </p>
      <ul class="weeks">
        <li v-for="week in query.data.value" :key="week.id">
          <RouterLink class="board week" :to="{ name: 'week', params: { weekId: week.id } }">
            <strong class="figure">{{ week.name }}</strong>
            <span
              >{{ dayWords(new Date(week.starts_on)) }} to
              {{ dayWords(new Date(week.ends_on)) }}</span
            >
            <span class="quiet">{{ week.classes.join(", ") }}</span>
            <span>{{ week.tests.join(" · ") || "no challenge chosen yet" }}</span>
          </RouterLink>
        </li>
      </ul>
    </LoadState>
  </main>
</template>

<style scoped>
.top {
  margin-bottom: 12px;
}
.space {
  flex: 1;
}
fieldset {
  border: 2px solid var(--rule);
  border-radius: 4px;
  padding: 4px 12px 8px;
}
legend {
  font-weight: 700;
  padding: 0 6px;
}
.pick {
  min-height: 44px;
}
.num {
  width: 72px;
}
.weeks {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 10px;
  margin-top: 12px;
}
.week {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 20px;
  color: var(--ink);
  text-decoration: none;
}
.week strong {
  font-size: 1.7rem;
}
</style>
