<script setup lang="ts">
/** One week: its days, the rules, and the points by house and by child. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, reactive, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { useTests } from "../catalogue/useTests";
import Confirm from "../parts/Confirm.vue";
import LoadState from "../parts/LoadState.vue";
import { dayWords } from "../parts/words";
import HouseSums from "./HouseSums.vue";

const props = defineProps<{ weekId: string }>();
const router = useRouter();
const queries = useQueryClient();
const key = ["week", props.weekId];
const path = { week_id: props.weekId };
const query = useQuery({
  queryKey: key,
  queryFn: () => answer(client.GET("/api/weeks/{week_id}", { params: { path } })),
  staleTime: 0, // scores may have come in a moment ago
});
const tests = useTests();
const page = query.data;
const editing = ref<string | null>(null);
const removing = ref(false);
const problem = ref("");
const form = reactive({
  test_id: "",
  rival: "",
  rival_typed: "",
  rival_variant: "",
  rival_course: "",
});

/** Every day of the week, with its challenge where it has one. */
const days = computed(() => {
  const found: { on: string; day: Schemas["DayRow"] | undefined }[] = [];
  if (!page.value) return found;
  const last = new Date(`${page.value.ends_on}T12:00`);
  for (
    const at = new Date(`${page.value.starts_on}T12:00`);
    at <= last;
    at.setDate(at.getDate() + 1)
  ) {
    const on = at.toISOString().slice(0, 10);
    found.push({ on, day: page.value.days.find((one) => one.on === on) });
  }
  return found;
});
/** Once a challenge is open and until the week is over. */
const again = computed(() => {
  const today = new Date().toISOString().slice(0, 10);
  return (
    days.value.some(({ on, day }) => day && on <= today) && today <= (page.value?.ends_on ?? "")
  );
});
async function tryAgain(classId: string) {
  problem.value = "";
  try {
    const made = await answer(
      client.POST("/api/weeks/{week_id}/again", {
        params: { path },
        body: { class_id: classId },
      }),
    );
    await router.push({ name: "hall", params: { lessonId: made.id } });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
const variants = computed(
  () => tests.data.value?.find((one) => one.id === form.test_id)?.variants ?? [],
);
/** A mark set on another course is not the same mark: asked for where the test has one. */
const hasCourse = computed(
  () => tests.data.value?.find((one) => one.id === form.test_id)?.course ?? false,
);
function edit(on: string, day: Schemas["DayRow"] | undefined) {
  editing.value = on;
  problem.value = "";
  form.test_id = day?.test_id ?? "";
  form.rival = day?.rival?.name ?? "";
  form.rival_typed = day?.rival?.typed ?? "";
  form.rival_variant = day?.rival?.variant ?? "";
  form.rival_course = day?.rival?.course ?? "";
}
function chooseTest(id: string | null) {
  form.test_id = id ?? "";
  form.rival_variant = (variants.value.find((one) => one.usual) ?? variants.value[0])?.code ?? "";
}
async function keep() {
  if (!editing.value) return;
  problem.value = "";
  if (!form.test_id) {
    problem.value = "Choose the test of this day.";
    return;
  }
  try {
    const rival_variant = form.rival ? form.rival_variant || (variants.value[0]?.code ?? "") : "";
    const week = await answer(
      client.PUT("/api/weeks/{week_id}/days/{on}", {
        params: { path: { ...path, on: editing.value } },
        body: { ...form, rival_variant },
      }),
    );
    queries.setQueryData(key, week);
    editing.value = null;
  } catch (error) {
    const { message, accepted } = error as Error & { accepted?: string };
    problem.value = `${message} ${accepted ?? ""}`;
  }
}
async function clear(on: string) {
  problem.value = "";
  try {
    const params = { path: { ...path, on } };
    const week = await answer(client.DELETE("/api/weeks/{week_id}/days/{on}", { params }));
    queries.setQueryData(key, week);
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function remove() {
  removing.value = false;
  try {
    await answer(client.DELETE("/api/weeks/{week_id}", { params: { path } }));
    await queries.invalidateQueries({ queryKey: ["weeks"] });
    await router.push({ name: "challenges" });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <LoadState :query="query">
      <template v-if="page">
        <header class="line top">
          <h1>{{ page.name }}</h1>
          <span>{{ page.classes.map((one) => one.name).join(", ") }}</span>
          <span class="space" />
          <v-btn
            v-for="one in again ? page.classes : []"
            :key="one.id"
            color="primary"
            @click="tryAgain(one.id)"
          >
            Try all again<template v-if="page.classes.length > 1">: {{ one.name }}</template>
          </v-btn>
          <v-btn variant="outlined" :to="{ name: 'week-wall', params: { weekId } }">Wall</v-btn>
          <v-btn variant="text" @click="removing = true">Take the week away</v-btn>
        </header>
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <div class="columns">
          <ol class="days">
            <li v-for="{ on, day } in days" :key="on" class="board day">
              <span class="figure date">{{ dayWords(new Date(`${on}T12:00`)) }}</span>
              <RouterLink
                v-if="day"
                class="test"
                :to="{ name: 'challenge', params: { challengeId: day.id } }"
              >
                {{ day.test }}
              </RouterLink>
              <span v-else class="quiet">no challenge</span>
              <span v-if="day?.rival">
                {{ day.rival.name }}: <b class="figure">{{ day.rival.shown }}</b>
                {{ day.rival.variant_name }}
                <template v-if="day.rival.course">over {{ day.rival.course }}</template>
              </span>
              <span class="space" />
              <v-btn size="large" variant="outlined" @click="edit(on, day)">
                {{ day ? "Change" : "Choose" }}
              </v-btn>
              <v-btn
                v-if="day && !day.begun"
                size="large"
                variant="text"
                :aria-label="`Take ${day.test} out`"
                @click="clear(on)"
              >
                ×
              </v-btn>
              <form v-if="editing === on" class="line edit" @submit.prevent="keep">
                <v-autocomplete
                  auto-select-first
                  :model-value="form.test_id || null"
                  :items="tests.data.value ?? []"
                  item-title="name"
                  item-value="id"
                  label="Test"
                  class="wide"
                  @update:model-value="chooseTest"
                />
                <label class="labelled">
                  Rival (or nobody)
                  <input v-model="form.rival" class="field" maxlength="60" placeholder="the head" />
                </label>
                <label v-if="form.rival" class="labelled">
                  Mark, in the same test
                  <input v-model="form.rival_typed" class="field num" autocomplete="off" />
                </label>
                <label v-if="form.rival && variants.length > 1" class="labelled">
                  Variant
                  <select v-model="form.rival_variant" class="field">
                    <option v-for="one in variants" :key="one.code" :value="one.code">
                      {{ one.name }}
                    </option>
                  </select>
                </label>
                <label v-if="form.rival && hasCourse" class="labelled">
                  On a course of
                  <input
                    v-model="form.rival_course"
                    class="field num"
                    placeholder="the usual"
                    autocomplete="off"
                  />
                </label>
                <v-btn type="submit" color="primary">Keep</v-btn>
                <v-btn variant="outlined" @click="editing = null">Not now</v-btn>
              </form>
            </li>
          </ol>
          <aside class="stack">
            <section class="board">
              <h2>Points</h2>
              <p v-for="rule in page.rules" :key="rule.rule">
                <b class="figure">{{ rule.points }}</b> {{ rule.words }}
              </p>
              <p class="quiet">Each at most once a child and challenge.</p>
            </section>
            <HouseSums :houses="page.houses" />
            <section class="board">
              <h2>Children</h2>
              <template v-for="group in page.classes" :key="group.id">
                <h3>{{ group.name }}</h3>
                <ul class="children">
                  <li
                    v-for="one in page.children.filter((c) => c.class_name === group.name)"
                    :key="one.pupil_id"
                  >
                    <RouterLink :to="{ name: 'pupil', params: { pupilId: one.pupil_id } }">{{
                      one.name
                    }}</RouterLink>
                    <b class="figure sum">{{ one.points || "" }}</b>
                  </li>
                </ul>
              </template>
            </section>
          </aside>
        </div>
        <Confirm
          v-model="removing"
          title="Take this week away?"
          words="The days and rivals go; scores stay. Once points were given, a week stays."
          yes="Take it away"
          @yes="remove"
        />
      </template>
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
.columns {
  display: grid;
  grid-template-columns: 8fr 4fr;
  gap: 18px;
  align-items: start;
}
.days {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
}
.day {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
}
.date {
  min-width: 9em;
  font-size: 1.2rem;
}
.test {
  font-weight: 700;
  min-height: 44px;
  display: inline-grid;
  align-content: center;
}
.edit {
  flex-basis: 100%;
}
.wide {
  min-width: 280px;
}
.num {
  width: 110px;
}
.sum {
  margin-left: 6px;
}
.children {
  margin-bottom: 10px;
  list-style: none;
  padding: 0;
  columns: 2;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
