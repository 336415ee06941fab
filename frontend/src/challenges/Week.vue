<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** One week: its days, the rules, and the points by house and by child. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/challenges";
import { tell } from "../parts/form/tell";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { useTests } from "../catalogue/useTests";
import Confirm from "../parts/form/Confirm.vue";
import LoadState from "../parts/LoadState.vue";
import { daysThrough, dayWords, isoDay } from "../parts/words";
import HouseSums from "./HouseSums.vue";
import RivalRow from "./RivalRow.vue";

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
const adding = ref<string | null>(null);
const chosen = ref<string[]>([]);
const rivals = ref(false);
const removing = ref(false);

/** Every day of the week, with its challenges. */
const days = computed(() =>
  daysThrough(page.value?.starts_on ?? "", page.value?.ends_on ?? "").map((on) => ({
    on,
    challenges: page.value?.challenges.filter((one) => one.on === on) ?? [],
  })),
);
/** Once a challenge is open and until the week is over. */
const again = computed(() => {
  const today = isoDay();
  const begun = page.value?.challenges.some((one) => one.on <= today);
  return begun && today <= (page.value?.ends_on ?? "");
});
const takeIn = (week: Schemas["WeekPage"]) => {
  queries.setQueryData(key, week);
  adding.value = null;
  rivals.value = false;
};
const trying = useMutation({
  mutationFn: (classId: string) =>
    answer(
      client.POST("/api/weeks/{week_id}/again", {
        params: { path },
        body: { class_id: classId },
      }),
    ),
  onSuccess: (made) => router.push({ name: "hall", params: { lessonId: made.id } }),
});
const putting = useMutation({
  mutationFn: (on: string) =>
    answer(
      client.POST("/api/weeks/{week_id}/challenges", {
        params: { path },
        body: { on, test_ids: chosen.value },
      }),
    ),
  onSuccess: takeIn,
});
const taking = useMutation({
  mutationFn: (challengeId: string) =>
    answer(
      client.DELETE("/api/challenges/{challenge_id}", {
        params: { path: { challenge_id: challengeId } },
      }),
    ),
  onSuccess: takeIn,
});
const giving = useMutation({
  mutationFn: () => answer(client.POST("/api/weeks/{week_id}/points", { params: { path } })),
  onSuccess(found) {
    takeIn(found);
    tell(t("allPointsHaveBeenGiven"));
  },
});
const ending = useMutation({
  mutationFn: () => answer(client.DELETE("/api/weeks/{week_id}", { params: { path } })),
  async onSuccess() {
    await queries.invalidateQueries({ queryKey: ["weeks"] });
    await router.push({ name: "challenges" });
  },
  onSettled: () => (removing.value = false),
});
const problem = computed(
  () =>
    [trying, putting, taking, giving, ending].find((one) => one.error.value)?.error.value
      ?.message ?? "",
);
function add(on: string) {
  adding.value = adding.value === on ? null : on;
  chosen.value = [];
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="page?.name ?? t('challenges')"
      ><template #trail
        ><RouterLink :to="{ name: 'challenges' }">{{ t("challenges") }}</RouterLink></template
      >
      <template v-if="page" #facts>{{ page.classes.map((one) => one.name).join(", ") }}</template>
      <template v-if="page">
        <v-btn variant="text" @click="removing = true">{{ t("deleteWeek") }}</v-btn>
        <v-btn
          v-if="page.challenges.length"
          variant="outlined"
          :to="{ name: 'goes', params: { weekId } }"
          >{{ t("childrensEntries") }}</v-btn
        >
        <v-btn variant="outlined" :to="{ name: 'week-wall', params: { weekId } }">{{
          t("wall")
        }}</v-btn>
        <v-btn v-if="page.challenges.length" variant="outlined" @click="rivals = !rivals">
          {{ t("rival") }}
        </v-btn>
        <v-btn
          v-if="page.challenges.length"
          variant="outlined"
          :loading="giving.isPending.value"
          @click="giving.mutate()"
        >
          {{ t("givePoints") }}
        </v-btn>
        <v-btn
          v-for="one in again ? page.classes : []"
          :key="one.id"
          color="primary"
          :loading="trying.isPending.value"
          @click="trying.mutate(one.id)"
        >
          {{ t("repeatTheWholeWeek")
          }}<template v-if="page.classes.length > 1">: {{ one.name }}</template>
        </v-btn>
      </template>
    </PageHead>
    <LoadState :query="query">
      <template v-if="page">
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <RivalRow
          v-if="rivals"
          class="rivals"
          :week-id="weekId"
          :challenges="page.challenges"
          :groups="page.groups"
          @kept="takeIn"
          @close="rivals = false"
        />
        <div class="columns">
          <ol class="days">
            <li v-for="{ on, challenges } in days" :key="on" class="board day">
              <span class="figure date">{{ dayWords(on) }}</span>
              <ul class="tests">
                <li v-for="one in challenges" :key="one.id">
                  <RouterLink
                    class="test"
                    :to="{ name: 'challenge', params: { challengeId: one.id } }"
                  >
                    {{ one.test }}
                  </RouterLink>
                  <span v-if="one.rival">
                    {{ one.rival.name }}: <b class="figure">{{ one.rival.shown }}</b>
                    {{ one.rival.variant_name }}
                    <template v-if="one.rival.course">{{
                      t("overCourse", { course: one.rival.course })
                    }}</template>
                  </span>
                  <v-btn
                    v-if="!one.begun"
                    :icon="mdiClose"
                    variant="text"
                    :aria-label="t('removeTest', { test: one.test })"
                    @click="taking.mutate(one.id)"
                  />
                </li>
                <li v-if="!challenges.length" class="quiet">{{ t("noChallenge") }}</li>
              </ul>
              <v-btn
                v-if="challenges.length > 1"
                variant="outlined"
                :to="{ name: 'set', params: { weekId }, query: { on } }"
              >
                {{ t("asASet") }}
              </v-btn>
              <v-btn variant="outlined" :aria-expanded="adding === on" @click="add(on)">
                {{ challenges.length ? t("add") : t("choose") }}
              </v-btn>
              <form v-if="adding === on" class="line edit" @submit.prevent="putting.mutate(on)">
                <v-autocomplete
                  v-model="chosen"
                  auto-select-first
                  clear-on-select
                  multiple
                  chips
                  closable-chips
                  hide-details
                  :items="tests.data.value ?? []"
                  item-title="name"
                  item-value="id"
                  :label="t('tests')"
                  class="wide"
                />
                <v-btn type="submit" color="primary" :disabled="!chosen.length">{{
                  t("save")
                }}</v-btn>
                <v-btn variant="outlined" @click="adding = null">{{ t("cancel") }}</v-btn>
              </form>
            </li>
          </ol>
          <aside class="stack">
            <section class="board">
              <h2>{{ t("points") }}</h2>
              <p v-for="rule in page.rules" :key="rule.rule">
                <b class="figure">{{ rule.points }}</b> {{ rule.words }}
              </p>
              <p class="quiet">{{ t("eachAtMostOncePerChild") }}</p>
            </section>
            <HouseSums :houses="page.houses" />
            <section class="board">
              <h2>{{ t("children") }}</h2>
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
          :title="t('deleteThisWeek')"
          :words="t('itsChallengesAndRivalsAreDeleted')"
          :yes="t('deleteWeek')"
          @yes="ending.mutate()"
        />
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 8fr 4fr;
  gap: var(--gap-16);
  align-items: start;
}
.days {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-8);
}
.day {
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  gap: var(--gap-8) var(--gap-12);
}
.date {
  min-width: 9em;
  min-height: 44px;
  display: inline-grid;
  align-content: center;
  font-size: var(--type-18);
}
.test {
  font-weight: 700;
  min-height: 44px;
  display: inline-grid;
  align-content: center;
}
.tests {
  flex: 1;
  min-width: 240px;
  list-style: none;
  padding: 0;
}
.tests li {
  display: grid;
  grid-template-columns: minmax(0, 14rem) minmax(0, 1fr) 44px;
  align-items: center;
  min-height: 44px;
  gap: 0 var(--gap-12);
}
.tests li > .v-btn {
  grid-column: 3;
}
.rivals {
  margin-bottom: var(--gap-12);
}
.edit {
  flex-basis: 100%;
}
.wide {
  min-width: min(280px, 100%);
}
.sum {
  margin-left: var(--gap-8);
}
.children {
  margin-bottom: var(--gap-8);
  list-style: none;
  padding: 0;
  columns: 2;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: 1fr;
  }
  .tests li {
    grid-template-columns: minmax(0, 1fr) 44px;
    grid-template-rows: auto auto;
  }
  .tests li > .v-btn {
    grid-area: 1 / 2;
  }
}
</style>
