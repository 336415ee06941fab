<script setup lang="ts">
/** One challenge: first and best of everybody, who beat the rival, and the points with their why. */
import PageHead from "../parts/PageHead.vue";
import Fold from "../parts/Fold.vue";
import { t } from "../messages/challenges";
import { vFocus } from "../parts/form/focus";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import WhyButton from "../parts/why/WhyButton.vue";
import LoadState from "../parts/LoadState.vue";
import { dayWords } from "../parts/words";
import SortHead from "../parts/table/SortHead.vue";
import { useTableSort } from "../parts/table/useTableSort";
import HouseSums from "./HouseSums.vue";
import { POINT_RULES } from "../api/vocabulary";

const props = defineProps<{ challengeId: string }>();
const router = useRouter();
const queries = useQueryClient();
const key = ["challenge", props.challengeId];
const path = { challenge_id: props.challengeId };
const query = useQuery({
  queryKey: key,
  queryFn: () => answer(client.GET("/api/challenges/{challenge_id}", { params: { path } })),
  staleTime: 0, // scores may have come in a moment ago
});
const page = query.data;
const { sorted, sortBy, directionOf } = useTableSort(() => page.value?.children, {
  child: (one) => one.name,
  points: (one) => one.points,
});
const problem = ref("");
const giving = ref(false);
const announcement = ref("");
const taking = ref<Schemas["GivenPoint"] | null>(null);
const why = ref("");
const several = computed(() => (page.value?.classes.length ?? 0) > 1);

function words(rule: string): string {
  return POINT_RULES.find((one) => one.code === rule)?.words ?? rule;
}
async function take(classId: string) {
  problem.value = "";
  try {
    const made = await answer(
      client.POST("/api/challenges/{challenge_id}/open", {
        params: { path },
        body: { class_id: classId },
      }),
    );
    await router.push({
      name: "hall",
      params: { lessonId: made.lesson_id },
      query: { activity: made.activity_id },
    });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function give() {
  giving.value = true;
  problem.value = "";
  try {
    const points = page.value?.waiting ?? 0;
    const after = await answer(
      client.POST("/api/challenges/{challenge_id}/points", { params: { path } }),
    );
    queries.setQueryData(key, after);
    announcement.value = t("nPointGiven", points);
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    giving.value = false;
  }
}
function ask(point: Schemas["GivenPoint"]) {
  taking.value = point;
  why.value = point.no_longer ? t("theScoreWasCorrected") : "";
}
async function reverse() {
  if (!taking.value) return;
  problem.value = "";
  try {
    const after = await answer(
      client.POST("/api/points/{point_id}/reverse", {
        params: { path: { point_id: taking.value.id } },
        body: { why: why.value },
      }),
    );
    queries.setQueryData(key, after);
    taking.value = null;
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="page?.test ?? t('challenge')"
      ><template v-if="page" #trail>
        <RouterLink :to="{ name: 'challenges' }">{{ t("challenges") }}</RouterLink> ·
        <RouterLink :to="{ name: 'week', params: { weekId: page.week_id } }">
          {{ page.week }}
        </RouterLink></template
      ><template v-if="page" #facts>
        {{ t("fromFirstOpenUntilLast", { first: dayWords(page.on), last: dayWords(page.until) }) }}
      </template></PageHead
    >
    <LoadState :query="query">
      <template v-if="page">
        <div class="columns">
          <div class="stack">
            <div class="board line">
              <p v-if="page.rival">
                <i18n-t keypath="challenges.rivalSetMarkForm" scope="global"
                  ><template #form>{{ page.rival.variant_name }}</template
                  ><template #rival
                    ><strong>{{ page.rival.name }}</strong></template
                  ><template #mark
                    ><b class="figure mark">{{ page.rival.shown }}</b></template
                  ></i18n-t
                >
              </p>
              <p>
                <i18n-t keypath="challenges.nTookPart" scope="global"
                  ><template #n
                    ><b class="figure">{{ page.took_part }}</b></template
                  ></i18n-t
                ><template v-if="page.rival"
                  ><i18n-t keypath="challenges.nBeatRival" scope="global"
                    ><template #rival>{{ page.rival.name }}</template
                    ><template #n
                      ><b class="figure">{{ page.beat_rival }}</b></template
                    ></i18n-t
                  ></template
                >
              </p>
              <span class="break" />
              <v-btn
                v-for="one in page.classes"
                :key="one.id"
                size="large"
                variant="outlined"
                @click="take(one.id)"
              >
                {{ several ? t("takeScoresTest", { test: one.name }) : t("takeScores") }}
              </v-btn>
              <v-btn
                size="large"
                color="primary"
                :disabled="!page.waiting"
                :loading="giving"
                @click="give"
              >
                {{ page.waiting ? t("giveNPoint", page.waiting) : t("noPointsToGive") }}
              </v-btn>
            </div>
            <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
            <p class="sr-only" role="status">{{ announcement }}</p>
            <div class="board scroll">
              <v-table class="middle">
                <thead>
                  <tr>
                    <SortHead
                      :words="t('child')"
                      :direction="directionOf('child')"
                      @sort="sortBy('child')"
                    />
                    <th scope="col">{{ t("first") }}</th>
                    <th scope="col">{{ t("best") }}</th>
                    <th scope="col">{{ t("result") }}</th>
                    <SortHead
                      :words="t('pointsAndReasons')"
                      :direction="directionOf('points')"
                      @sort="sortBy('points')"
                    />
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="child in sorted" :key="child.pupil_id">
                    <th scope="row">
                      {{ child.name }}
                      <span class="quiet house">{{ child.house }}</span>
                    </th>
                    <td class="figure">{{ child.first || "–" }}</td>
                    <td>
                      <b v-if="child.tries > 1" class="figure">{{ child.best }}</b>
                      <span v-if="child.tries > 1" class="quiet">
                        {{ t("ofNGoes", { n: child.tries }) }}</span
                      >
                    </td>
                    <td>
                      {{ [child.gain, child.rival].filter(Boolean).join(" · ") }}
                      <WhyButton v-if="child.last" :attempt-id="child.last" :label="child.name" />
                    </td>
                    <td>
                      <div class="points">
                        <b class="figure sum">{{ child.points || "" }}</b>
                        <v-btn
                          v-for="point in child.given"
                          :key="point.rule"
                          variant="outlined"
                          size="small"
                          class="given"
                          :class="{ back: point.points === 0, odd: point.no_longer }"
                          :title="t('whyByWho', { why: point.why, who: point.by })"
                          @click="ask(point)"
                        >
                          <template v-if="point.points"
                            >+{{ point.points }} {{ words(point.rule) }}</template
                          >
                          <template v-else>
                            <s>{{ words(point.rule) }}</s>
                            {{ t("removedWhy", { why: point.back }) }}
                          </template>
                          <template v-if="point.no_longer"> {{ t("noLongerEarned") }}</template>
                        </v-btn>
                        <span v-for="point in child.waiting" :key="point.rule" class="tag waiting">
                          ○ {{ point.points }} {{ words(point.rule) }}
                        </span>
                        <Fold v-if="child.missed.length" class="missed quiet">
                          <template #title>{{ t("reason") }}</template>
                          <p v-for="one in child.missed" :key="one.rule">
                            {{ words(one.rule) }}: {{ one.why }}
                          </p>
                        </Fold>
                      </div>
                    </td>
                  </tr>
                </tbody>
              </v-table>
            </div>
          </div>
          <aside class="stack">
            <HouseSums :houses="page.houses" />
            <section class="board">
              <h2>{{ t("rules") }}</h2>
              <p v-for="rule in page.rules" :key="rule.rule">
                <b class="figure">{{ rule.points }}</b> {{ rule.words }}
              </p>
              <p class="quiet">
                {{ t("meansEarnedButNotGivenYet") }}
              </p>
            </section>
          </aside>
        </div>
        <v-dialog
          :model-value="taking !== null"
          max-width="520"
          :aria-label="t('removePoints')"
          @update:model-value="taking = null"
        >
          <form v-if="taking" class="board stack" @submit.prevent="reverse">
            <h2>
              {{ taking.points ? t("removeNPoint", taking.points) : t("giveThePointsAgain") }}
            </h2>
            <p>{{ taking.why }}</p>
            <v-text-field v-model="why" v-focus maxlength="240" :label="t('why')" />
            <p class="quiet">{{ t("bothChangesStayOnRecordWith") }}</p>
            <div class="line">
              <v-btn type="submit" color="primary">
                {{ taking.points ? t("removePoints") : t("giveAgain") }}
              </v-btn>
              <v-btn variant="outlined" @click="taking = null">{{ t("cancel") }}</v-btn>
            </div>
          </form>
        </v-dialog>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.break {
  flex-basis: 100%;
}
.columns {
  display: grid;
  grid-template-columns: 9fr 3fr;
  gap: var(--gap-16);
  align-items: start;
}
.mark {
  font-size: var(--type-28);
}
td.figure {
  font-size: var(--type-24);
}
.house {
  font-weight: 400;
}
.points {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-8);
  align-items: center;
}
.sum {
  font-size: var(--type-24);
  min-width: 1.4em;
}
.given.back {
  border-style: dashed;
}
.given.odd {
  border-color: var(--pennant);
}
.waiting {
  border-style: dotted;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
