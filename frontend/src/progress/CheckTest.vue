<script setup lang="ts">
/** One test of a lesson: what is odd, who is missing, what was corrected, every score. */
import { t } from "../messages/progress";
import { forget } from "../parts/forget";
import { vFocus } from "../parts/form/focus";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, reactive, ref, useId } from "vue";
import { answer, client, wordsOf, type Schemas } from "../api/client";
import { v4 as newId } from "uuid";
import { now } from "../parts/time/timeSource";
import WhyButton from "../parts/why/WhyButton.vue";
import LoadState from "../parts/LoadState.vue";
import { waitingIn } from "../sync/unsent";
import { useSync } from "../sync/useSync";
import { checkPage } from "./checkPage";
import { clockTime, shortDay } from "../parts/words";

const props = defineProps<{ activityId: string }>();
const { activityId } = props;
const queries = useQueryClient();
const page = useQuery({
  ...checkPage(activityId),
  staleTime: 0,
});
const data = page.data;
const byId = computed(() => new Map(data.value?.children.map((one) => [one.pupil_id, one])));
const sync = useSync();
const waiting = computed(() => waitingIn(sync.mine.value, activityId));
/** Whose score is on its way is missing to nobody. */
const missing = computed(() =>
  found(data.value?.missing).filter((one) => !waiting.value.has(one.pupil_id)),
);
const odd = computed(() => found(data.value?.odd));
const typed = reactive<Record<string, string>>({});
const why = reactive<Record<string, string>>({});
const correcting = ref<string | null>(null);
const problems = reactive<Record<string, string>>({});
const WHYS = [t("misheard"), t("typingMistake"), t("partnerCountedAgain"), t("wrongForm")];

function found(ids: string[] | undefined): Schemas["Child"][] {
  return (ids ?? []).flatMap((id) => byId.value.get(id) ?? []);
}
async function refresh() {
  await Promise.all([
    page.refetch(),
    queries.invalidateQueries({ queryKey: ["lanes", activityId] }),
    queries.invalidateQueries({ queryKey: ["results"] }),
    queries.invalidateQueries({ queryKey: ["today"] }),
    queries.invalidateQueries({ queryKey: ["pupil"] }),
  ]);
}
/** A second press while the first is on its way does nothing. */
const busy = new Set<string>();
async function attempt(child: Schemas["Child"], step: () => Promise<unknown>) {
  if (busy.has(child.pupil_id)) return;
  busy.add(child.pupil_id);
  forget(problems, child.pupil_id);
  try {
    await step();
    forget(typed, child.pupil_id);
    correcting.value = null;
    await refresh();
  } catch (error) {
    problems[child.pupil_id] = wordsOf(error);
  } finally {
    busy.delete(child.pupil_id);
  }
}
/** The try that decides a child's score; the first where there is none yet. */
function deciding(child: Schemas["Child"]) {
  return child.tries.find((one) => one.score && one.score.id === child.score?.id);
}
function record(
  child: Schemas["Child"],
  text: string,
  reason: string,
  one = deciding(child),
  variant = child.variant,
) {
  return attempt(child, () =>
    answer(
      client.POST("/api/activities/{activity_id}/attempts", {
        params: { path: { activity_id: activityId } },
        body: {
          id: newId(),
          pupil_id: child.pupil_id,
          typed: text,
          variant,
          wave: child.wave,
          recorded_at: new Date(now()).toISOString(),
          try_number: one?.number ?? 1,
          conditions: one?.score?.conditions ?? {},
          succeeds: one ? one.head : child.head,
          why: reason,
          withdrawn: false,
          sure: false,
        },
      }),
    ),
  );
}
/** What a second counter said takes the place of the score. */
function take(child: Schemas["Child"], other: Schemas["RecountRow"]) {
  const one = child.tries.find((each) => each.number === other.try_number);
  return record(child, other.typed, t("secondCount", { name: other.by }), one, other.variant);
}
const countsOf = (child: Schemas["Child"]) =>
  data.value?.recounts.filter((one) => one.pupil_id === child.pupil_id) ?? [];
function confirm(child: Schemas["Child"]) {
  return attempt(child, async () => {
    for (const flag of child.flags.filter((one) => !one.settled)) {
      await answer(
        client.POST("/api/attempts/{attempt_id}/confirm", {
          params: { path: { attempt_id: child.score?.id ?? "" } },
          body: { flag: flag.code },
        }),
      );
    }
  });
}
/** Suggested, not chosen from: Enter saves, it does not choose first. */
const whys = useId();
</script>

<template>
  <LoadState :query="page">
    <div v-if="data" class="check">
      <datalist :id="whys">
        <option v-for="words in WHYS" :key="words" :value="words" />
      </datalist>
      <section>
        <h2>{{ t("toCheck") }}</h2>
        <p v-if="!odd.length" class="quiet">{{ t("nothingToCheck") }}</p>
        <ul class="list">
          <li v-for="child in odd" :key="child.pupil_id" class="board item">
            <div class="line">
              <RouterLink class="name" :to="{ name: 'pupil', params: { pupilId: child.pupil_id } }">
                {{ child.name }}
              </RouterLink>
              <b class="figure shown">
                {{ child.score?.shown }}{{ child.score?.estimate ? " ~" : "" }}
              </b>
              <span class="why">
                <span v-for="flag in child.flags.filter((f) => !f.settled)" :key="flag.code">
                  {{ flag.words }}
                </span>
              </span>
              <span class="buttons">
                <v-btn color="primary" @click="confirm(child)">{{
                  countsOf(child).length
                    ? t("keepScore", { score: child.score?.shown ?? "" })
                    : t("confirm")
                }}</v-btn>
                <v-btn
                  v-for="other in countsOf(child)"
                  :key="other.id"
                  variant="outlined"
                  @click="take(child, other)"
                  >{{ t("takeScoreOfName", { score: other.typed, name: other.by }) }}</v-btn
                >
                <v-btn
                  variant="outlined"
                  @click="correcting = correcting === child.pupil_id ? null : child.pupil_id"
                >
                  {{ t("correct") }}
                </v-btn>
                <v-btn variant="outlined" @click="record(child, 'v', t('didNotCount'))">{{
                  t("void")
                }}</v-btn>
              </span>
            </div>
            <form
              v-if="correcting === child.pupil_id"
              class="line"
              @submit.prevent="
                record(child, typed[child.pupil_id] ?? '', why[child.pupil_id] ?? '')
              "
            >
              <v-text-field
                v-model="typed[child.pupil_id]"
                v-focus
                class="figure"
                :label="t('score')"
              />
              <v-text-field
                v-model="why[child.pupil_id]"
                class="grow"
                required
                :list="whys"
                :label="t('why')"
              />
              <v-btn type="submit" color="primary">{{ t("saveCorrection") }}</v-btn>
            </form>
            <p v-if="problems[child.pupil_id]" role="alert" class="problem">
              {{ problems[child.pupil_id] }}
            </p>
          </li>
        </ul>
      </section>

      <section>
        <h2>{{ t("missing") }}</h2>
        <p v-if="!missing.length" class="quiet">{{ t("noScoresAreMissing") }}</p>
        <ul class="list">
          <li v-for="child in missing" :key="child.pupil_id" class="board item">
            <form
              class="line"
              @submit.prevent="record(child, typed[child.pupil_id] ?? '', t('enteredInResults'))"
            >
              <span class="name">{{ child.name }}</span>
              <v-text-field
                v-model="typed[child.pupil_id]"
                class="figure"
                :aria-label="t('scoreOfName', { name: child.name })"
                :placeholder="t('score')"
              />
              <v-btn type="submit" variant="outlined" :disabled="!typed[child.pupil_id]">
                {{ t("save") }}
              </v-btn>
              <span class="buttons">
                <v-btn variant="text" @click="record(child, 'a', '')">{{ t("absent") }}</v-btn>
                <v-btn variant="text" @click="record(child, 'x', '')">{{ t("satOut") }}</v-btn>
                <v-btn variant="text" @click="record(child, 'k', '')">{{ t("noKit") }}</v-btn>
                <v-btn variant="text" @click="record(child, 'r', '')">{{
                  t("didNotWantTo")
                }}</v-btn>
              </span>
            </form>
            <p v-if="problems[child.pupil_id]" role="alert" class="problem">
              {{ problems[child.pupil_id] }}
            </p>
          </li>
        </ul>
      </section>

      <section v-if="data.corrections.length">
        <h2>{{ t("corrections") }}</h2>
        <div class="board scroll">
          <v-table>
            <thead>
              <tr>
                <th scope="col">{{ t("child") }}</th>
                <th scope="col">{{ t("firstEntry") }}</th>
                <th scope="col">{{ t("now") }}</th>
                <th scope="col">{{ t("by") }}</th>
                <th scope="col">{{ t("when") }}</th>
                <th scope="col">{{ t("why") }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in data.corrections" :key="row.pupil_id + row.at">
                <td>{{ row.name }}</td>
                <td>{{ row.was }}</td>
                <td>{{ row.now }}</td>
                <td>{{ row.by }}</td>
                <td>{{ shortDay(row.at) }}, {{ clockTime(row.at) }}</td>
                <td>{{ row.why }}</td>
              </tr>
            </tbody>
          </v-table>
        </div>
      </section>

      <section>
        <h2>{{ t("allScores") }}</h2>
        <div class="board scroll">
          <v-table>
            <thead>
              <tr>
                <th scope="col">{{ t("child") }}</th>
                <th scope="col">{{ t("score") }}</th>
                <th scope="col">{{ t("result") }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="child in data.children" :key="child.pupil_id">
                <td>
                  <RouterLink :to="{ name: 'pupil', params: { pupilId: child.pupil_id } }">
                    {{ child.name }}
                  </RouterLink>
                </td>
                <td>
                  <b class="figure">{{ child.score?.shown ?? "–" }}</b>
                </td>
                <td>
                  {{ child.words.join(" · ") }}
                  <WhyButton
                    v-if="child.score && child.score.value !== null"
                    :attempt-id="child.score.id"
                    :label="child.name"
                  />
                </td>
              </tr>
            </tbody>
          </v-table>
        </div>
      </section>
    </div>
  </LoadState>
</template>

<style scoped>
.check {
  display: grid;
  gap: var(--gap-24);
}
.list {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-8);
  margin-top: var(--gap-8);
}
.item {
  padding: var(--gap-8) var(--gap-12);
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-8) var(--gap-12);
}
.name {
  min-width: 180px;
  font-weight: 700;
}
.shown {
  font-size: var(--type-28);
  min-width: 60px;
}
.why {
  flex: 1;
  display: grid;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-8);
}
.grow {
  flex: 1;
}
</style>
