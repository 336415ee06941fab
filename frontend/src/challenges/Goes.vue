<script setup lang="ts">
/** What children enter themselves: how they come in, what waits for the teacher, what was decided. */
import { t } from "../messages/challenges";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed } from "vue";
import { answer, client, wordsOf, type Schemas } from "../api/client";
import PageHead from "../parts/PageHead.vue";
import LoadState from "../parts/LoadState.vue";
import { ask } from "../parts/form/ask";
import { tell } from "../parts/form/tell";
import { dayWords, clockTime, shortDay } from "../parts/words";
import GoesClass from "./GoesClass.vue";

const props = defineProps<{ weekId: string }>();
const queries = useQueryClient();
const key = ["goes", props.weekId];
const path = { week_id: props.weekId };
const query = useQuery({
  queryKey: key,
  queryFn: () => answer(client.GET("/api/weeks/{week_id}/goes", { params: { path } })),
  staleTime: 0,
  refetchInterval: 15_000,
});
const page = query.data;
type Go = Schemas["GoRow"];
const plain = computed(() => page.value?.waiting.filter((one) => !one.flags.length) ?? []);

const change = useMutation({
  mutationFn: (how: { accept: string[]; sure: boolean } | { decline: Go } | { wait: Go }) => {
    if ("accept" in how) {
      const body = { ids: how.accept, sure: how.sure };
      return answer(client.POST("/api/weeks/{week_id}/goes/accept", { params: { path }, body }));
    }
    if ("decline" in how) {
      const params = { path: { ...path, go_id: how.decline.id } };
      return answer(client.POST("/api/weeks/{week_id}/goes/{go_id}/decline", { params }));
    }
    const params = { path: { ...path, go_id: how.wait.id } };
    return answer(client.POST("/api/weeks/{week_id}/goes/{go_id}/wait", { params }));
  },
  onSuccess(now, how) {
    take(now);
    if ("decline" in how) {
      const go = how.decline;
      tell(t("goOfChildDeclined", { child: go.name }), () => change.mutateAsync({ wait: go }));
    } else if ("accept" in how && !now.left.length) {
      // One that has become odd meanwhile still waits.
      const left = new Set(now.waiting.map((one) => one.id));
      tell(t("nGoAccepted", how.accept.filter((id) => !left.has(id)).length));
    }
  },
});
function take(now: Schemas["GoesAnswer"]) {
  queries.setQueryData(key, now);
  for (const other of ["open-challenges", "week", "challenge", "waiting-goes"]) {
    void queries.invalidateQueries({ queryKey: [other] });
  }
}
async function acceptAll() {
  const yes = await ask({
    title: t("acceptNGo", plain.value.length),
    words: t("theyBecomeScoresOfTheirDay"),
    yes: t("accept"),
  });
  if (yes) change.mutate({ accept: plain.value.map((one) => one.id), sure: false });
}
const problems = computed(() => [
  ...(change.error.value ? [wordsOf(change.error.value)] : []),
  ...(change.data.value?.left ?? []),
]);
const fromWords = (go: Go) => (go.by_slip ? t("fromTheFamily") : t("onAClassDevice"));
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('childrensEntries')"
      ><template #trail
        ><RouterLink :to="{ name: 'week', params: { weekId } }">{{
          page?.week ?? t("challengeWeekTrail")
        }}</RouterLink></template
      >
      <template v-if="page" #facts>{{ t("untilDay", { day: dayWords(page.ends_on) }) }}</template>
      <v-btn
        v-if="plain.length"
        color="primary"
        :loading="change.isPending.value"
        @click="acceptAll"
        >{{ t("acceptNGo", plain.length) }}</v-btn
      >
    </PageHead>
    <LoadState :query="query">
      <template v-if="page">
        <p v-for="words in problems" :key="words" role="alert" class="problem">{{ words }}</p>
        <div class="columns">
          <section class="board">
            <h2>{{ t("waitingForYou") }}</h2>
            <p v-if="!page.waiting.length" class="quiet">{{ t("goesOfChildrenAppearHere") }}</p>
            <ul class="goes">
              <li v-for="go in page.waiting" :key="go.id" :class="{ odd: go.flags.length }">
                <b class="figure">{{ go.shown }}</b>
                <span class="who">
                  <RouterLink :to="{ name: 'pupil', params: { pupilId: go.pupil_id } }">{{
                    go.name
                  }}</RouterLink>
                  <span class="quiet"
                    >{{ go.test }}<template v-if="go.variant">, {{ go.variant }}</template></span
                  >
                  <span class="quiet"
                    >{{ shortDay(go.on) }}, {{ clockTime(go.made_at) }}. {{ fromWords(go)
                    }}<template v-if="go.counted_by">
                      {{ t("countedByName", { name: go.counted_by }) }}</template
                    ></span
                  >
                  <span v-for="words in go.flags" :key="words" class="flag">{{ words }}</span>
                </span>
                <v-btn
                  variant="outlined"
                  :aria-label="t('acceptScoreOfChild', { score: go.shown, child: go.name })"
                  @click="change.mutate({ accept: [go.id], sure: true })"
                  >{{ t("accept") }}</v-btn
                >
                <v-btn
                  variant="text"
                  :aria-label="t('declineScoreOfChild', { score: go.shown, child: go.name })"
                  @click="change.mutate({ decline: go })"
                  >{{ t("decline") }}</v-btn
                >
              </li>
            </ul>
            <template v-if="page.decided.length">
              <h2>{{ t("decided") }}</h2>
              <ul class="goes">
                <li v-for="go in page.decided" :key="go.id">
                  <b class="figure">{{ go.shown }}</b>
                  <span class="who"
                    >{{ go.name }}<span class="quiet">{{ go.test }}, {{ shortDay(go.on) }}</span>
                    <span class="quiet">{{
                      go.state === "accepted"
                        ? t("acceptedByName", { name: go.decided_by })
                        : t("declinedByName", { name: go.decided_by })
                    }}</span></span
                  >
                  <v-btn
                    v-if="go.state === 'declined'"
                    variant="outlined"
                    @click="change.mutate({ wait: go })"
                    >{{ t("undo") }}</v-btn
                  >
                </li>
              </ul>
            </template>
          </section>
          <aside class="stack">
            <p v-if="!page.tests.length" class="board">{{ t("noTestForChildrenToEnter") }}</p>
            <p v-if="page.in_class.length" class="board quiet">
              {{ t("onlyInClass", { tests: page.in_class.join(", ") }) }}
            </p>
            <GoesClass
              v-for="group in page.classes"
              :key="group.class_id"
              :week-id="weekId"
              :group="group"
              :square="page.squares.find((one) => one.class_id === group.class_id) ?? null"
              @changed="take"
            />
          </aside>
        </div>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 7fr 5fr;
  gap: var(--gap-16);
  align-items: start;
}
.goes {
  list-style: none;
  padding: 0;
}
.goes li {
  display: flex;
  align-items: center;
  gap: var(--gap-8) var(--gap-12);
  padding: var(--gap-8) 0 var(--gap-8) var(--gap-8);
  border-bottom: var(--line-2) solid var(--rule);
}
.goes .figure {
  min-width: 3em;
  font-size: var(--type-28);
}
.who {
  flex: 1;
  display: grid;
}
.flag::before {
  content: "◇ ";
}
.flag {
  font-weight: 700;
}
.odd {
  border-left: var(--line-3) solid var(--pennant);
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .goes li {
    flex-wrap: wrap;
  }
}
</style>
