<script setup lang="ts">
/** One test: how to show it, what counts, what it needs, and how it may be scored. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/catalogue";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client } from "../api/client";
import Repeats from "../parts/Repeats.vue";
import LoadState from "../parts/LoadState.vue";
import { MERGES } from "../api/vocabulary";
import { EFFORT, kindWords } from "./words";

const props = defineProps<{ testId: string }>();
const children = ref(28);
const page = useQuery({
  queryKey: ["test", props.testId, children],
  queryFn: () =>
    answer(
      client.GET("/api/tests/{test_id}", {
        params: { path: { test_id: props.testId }, query: { children: children.value } },
      }),
    ),
  placeholderData: (old) => old,
});
const card = page.data;
const how = computed(() => card.value?.protocol);
const tries = computed(() => {
  const one = how.value;
  if (!one) return "";
  if (one.tries < 2) return t("oneTry");
  return t("nTriesMergeCounts", {
    n: one.tries,
    merge: MERGES.find((merge) => merge.code === one.merge)?.words,
  });
});
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="card?.name ?? t('test')"
      ><template #trail>
        <RouterLink :to="{ name: 'catalogue' }">{{ t("catalogue") }}</RouterLink><template
          v-if="card"
        >
          · {{ card.family_words }}</template
        > </template
      ><template v-if="card">
        <template v-if="card.may_edit">
          <v-btn variant="outlined" :to="{ name: 'copy-test', params: { testId: card.id } }">
            {{ t("copy") }}
          </v-btn>
          <v-btn variant="outlined" :to="{ name: 'edit-test', params: { testId: card.id } }">
            {{ t("edit") }}
          </v-btn>
        </template>
        <v-btn variant="outlined" :to="{ name: 'benchmarks', params: { testId: card.id } }">
          {{ t("benchmarks") }}
        </v-btn>
        <v-btn color="primary" :to="{ name: 'new-lesson', query: { test: card.id } }">
          {{ t("planALessonWithIt") }}
        </v-btn>
      </template></PageHead
    >
    <LoadState :query="page">
      <template v-if="card && how">
        <div class="card">
          <section class="board show">
            <h2>{{ t("showAndSay") }}</h2>
            <ol>
              <li v-for="line in how.say" :key="line">{{ line }}</li>
            </ol>
            <div class="counts">
              <div>
                <h3 class="figure">{{ t("whatCounts") }}</h3>
                <ul>
                  <li v-for="line in how.counts" :key="line">{{ line }}</li>
                </ul>
              </div>
              <div>
                <h3 class="figure">{{ t("whatDoesNotCount") }}</h3>
                <ul>
                  <li v-for="line in how.does_not_count" :key="line">{{ line }}</li>
                </ul>
              </div>
            </div>
            <dl>
              <dt>{{ t("itEnds") }}</dt>
              <dd>{{ how.ends || t("withTheScore") }}</dd>
              <dt v-if="how.easier">{{ t("easier") }}</dt>
              <dd v-if="how.easier">{{ how.easier }}</dd>
              <dt v-if="how.harder">{{ t("harder") }}</dt>
              <dd v-if="how.harder">{{ how.harder }}</dd>
              <dt v-if="how.variants?.length">{{ t("forms") }}</dt>
              <dd v-if="how.variants?.length">
                {{
                  t("formsEasiestFirstScoresAreOnly", {
                    forms: how.variants.map((one) => one.name).join(" · "),
                  })
                }}
              </dd>
            </dl>
          </section>
          <aside class="stack">
            <section class="board care">
              <h2>{{ t("takeCare") }}</h2>
              <ul>
                <li v-for="line in how.cautions" :key="line">{{ line }}</li>
              </ul>
              <p class="quiet">{{ t("theSchoolsPolicyAndLocalRules") }}</p>
            </section>
            <section class="board">
              <h2>{{ t("forAClassOf") }}</h2>
              <div class="line">
                <v-text-field
                  v-model.number="children"
                  class="figure size"
                  type="number"
                  min="1"
                  max="60"
                  :aria-label="t('children')"
                />
                <i18n-t keypath="catalogue.childrenAboutMinutesMinutes" scope="global"
                  ><template #minutes
                    ><b class="figure big">{{ card.minutes }}</b></template
                  ></i18n-t
                >
              </div>
              <dl>
                <dt>{{ t("kit") }}</dt>
                <dd>
                  <template v-if="!card.kit_for_class.length">{{ t("none") }}</template>
                  <span v-for="item in card.kit_for_class" :key="item.item" class="item">
                    <b>{{ item.number }}</b> × {{ item.item }}
                  </span>
                </dd>
                <dt>{{ t("space") }}</dt>
                <dd>{{ [how.space, ...(how.places ?? [])].join(", ") }}</dd>
                <dt>{{ t("time") }}</dt>
                <dd>
                  {{
                    t("setupSToSetUpGo", {
                      setup: how.setup_seconds,
                      go: how.trial_seconds,
                      change: how.changeover_seconds,
                    })
                  }}
                </dd>
                <dt>{{ t("atOnce") }}</dt>
                <dd>
                  <template v-if="how.at_once">{{
                    t("nAtEachSetOfKit", { n: how.at_once })
                  }}</template>
                  <template v-else-if="how.waves === 1">{{ t("everyone") }}</template>
                  <template v-else>{{ t("everyoneInWavesWaves", { waves: how.waves }) }}</template>
                  <template v-if="how.helpers"> {{ t("helpersN", { n: how.helpers }) }}</template>
                </dd>
                <dt>{{ t("suits") }}</dt>
                <dd>
                  {{
                    t("agesFromageToageEffortLoads", {
                      fromAge: how.from_age,
                      toAge: how.to_age,
                      effort: EFFORT[how.effort ?? ""],
                      loads: how.loads?.join(", "),
                    })
                  }}
                </dd>
              </dl>
            </section>
            <section class="board">
              <h2>{{ t("score") }}</h2>
              <p>
                {{ kindWords(how.kind ?? "", how.seconds ?? null) }} ·
                {{ how.better === "up" ? t("moreIsBetter") : t("lessIsBetter") }} · {{ tries
                }}<template v-if="card.cap_shown">
                  {{ t("scoreIsTheMaximum", { score: card.cap_shown }) }}</template
                >
              </p>
              <p>{{ t("countedByWho", { who: how.counted_by || t("theTeacher") }) }}</p>
              <p class="quiet">{{ card.accepted }}</p>
            </section>
            <section class="board">
              <h2>{{ t("versions") }}</h2>
              <p v-for="one in card.versions" :key="one.number">
                <b class="figure">{{ one.number }}</b>
                {{ one.changed || (one.number === 1 ? t("firstVersion") : "") }}
              </p>
              <p class="quiet">
                {{ card.used ? t("thisVersionHasScoresEditingIt") : t("notUsedYet") }}
              </p>
            </section>
          </aside>
        </div>
        <section v-if="!card.private" class="board mt-4">
          <h2>{{ t("inThisSchool") }}</h2>
          <dl><Repeats :test-id="card.id" /></dl>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: 7fr 5fr;
  gap: var(--gap-16);
  align-items: start;
}
.show ol {
  font-size: var(--type-24);
  padding-left: var(--gap-24);
  margin: var(--gap-8) 0 var(--gap-12);
}
.show li {
  margin-bottom: var(--gap-4);
}
.counts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--gap-24);
  border-top: var(--line-3) solid var(--line);
  padding-top: var(--gap-8);
}
.counts h3 {
  font-size: var(--type-24);
}
.counts ul,
.care ul {
  padding-left: var(--gap-24);
}
.care {
  border-left: var(--bar) solid var(--pennant);
}
dl {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: var(--gap-4) var(--gap-12);
  margin-top: var(--gap-12);
}
dt {
  font-weight: 700;
}
.item {
  margin-right: var(--gap-12);
}
.size {
  width: 84px;
  font-size: var(--type-24);
}
.big {
  font-size: var(--type-28);
}
@media (max-width: 860px) {
  .card,
  .counts {
    grid-template-columns: 1fr;
  }
}
</style>
