<script setup lang="ts">
/** A set: all challenges of one day in a row, and what each child's sheet says. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/challenges";
import { tell } from "../parts/form/tell";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { answer, client } from "../api/client";
import WhyButton from "../parts/why/WhyButton.vue";
import LoadState from "../parts/LoadState.vue";
import { dayWords, isoDay } from "../parts/words";
import HandoutFile from "../parts/files/HandoutFile.vue";
import { useHandout } from "../parts/files/useHandout";
import SortHead from "../parts/table/SortHead.vue";
import { useTableSort } from "../parts/table/useTableSort";
import RivalRow from "./RivalRow.vue";

const props = defineProps<{ weekId: string }>();
const route = useRoute();
const router = useRouter();
const queries = useQueryClient();
const on = computed(() => String(route.query.on ?? isoDay()));
const path = { week_id: props.weekId };
const query = useQuery({
  queryKey: computed(() => ["set", props.weekId, on.value]),
  queryFn: () =>
    answer(client.GET("/api/weeks/{week_id}/sheet", { params: { path, query: { on: on.value } } })),
  staleTime: 0, // scores may have come in a moment ago
});
const week = useQuery({
  queryKey: ["week", props.weekId],
  queryFn: () => answer(client.GET("/api/weeks/{week_id}", { params: { path } })),
});
const page = query.data;
const { sorted, sortBy, directionOf } = useTableSort(() => page.value?.children, {
  child: (one) => one.name,
  beaten: (one) => (one.done ? one.beaten : null),
});
const rivals = computed(() => page.value?.challenges.map((one) => one.rival) ?? []);
/** A person without a mark wants one before anything else. */
const wanting = computed(() => rivals.value.some((one) => one && !one.made));
const asked = ref<boolean | null>(null);
const editing = computed(
  () => asked.value ?? (wanting.value && !page.value?.children.some((c) => c.done)),
);
const rivalName = computed(() => {
  const names = new Set(rivals.value.map((one) => one?.name ?? t("nobody")));
  return names.size === 1 ? [...names][0] : t("severalRivals");
});
const open = computed(
  () => page.value && page.value.on <= isoDay() && isoDay() <= page.value.until,
);
const chosen = ref("");
const child = computed(() => page.value?.children.find((one) => one.pupil_id === chosen.value));

async function kept() {
  asked.value = false;
  await queries.invalidateQueries({ queryKey: ["set"] });
  await queries.invalidateQueries({ queryKey: ["week"] });
}
const holding = useMutation({
  mutationFn: (classId: string) =>
    answer(
      client.POST("/api/weeks/{week_id}/hold", {
        params: { path },
        body: { class_id: classId, on: on.value },
      }),
    ),
  onSuccess: (made) => router.push({ name: "hall", params: { lessonId: made.id } }),
});
const giving = useMutation({
  mutationFn: () => answer(client.POST("/api/weeks/{week_id}/points", { params: { path } })),
  onSuccess() {
    tell(t("allPointsHaveBeenGiven"));
    return queries.invalidateQueries({ queryKey: ["week"] });
  },
});
const problem = computed(() => (holding.error.value ?? giving.error.value)?.message ?? "");
const { current, problem: unmade, busy, begin } = useHandout();
const print = () =>
  begin(() =>
    answer(
      client.POST("/api/weeks/{week_id}/sheets", { params: { path, query: { on: on.value } } }),
    ),
  );
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="page?.week ?? t('challenges')"
      ><template #trail
        ><RouterLink :to="{ name: 'challenges' }">{{ t("challenges") }}</RouterLink> ·
        <RouterLink :to="{ name: 'week', params: { weekId } }">{{
          t("theWeek")
        }}</RouterLink></template
      ><template v-if="page" #facts>
        <i18n-t keypath="challenges.dayNInARowRival" scope="global"
          ><template #day>{{ dayWords(page.on) }}</template
          ><template #n>{{ page.challenges.length }}</template
          ><template #rival
            ><strong>{{ rivalName }}</strong></template
          ></i18n-t
        > </template
      ><template v-if="page">
        <v-btn variant="text" :loading="busy" @click="print">{{ t("printSheets") }}</v-btn>
        <v-btn variant="outlined" @click="asked = !editing">{{ t("rival") }}</v-btn>
        <v-btn
          v-if="week.data.value"
          variant="outlined"
          :loading="giving.isPending.value"
          @click="giving.mutate()"
        >
          {{ t("givePoints") }}
        </v-btn>
        <v-btn
          v-for="one in open ? page.classes : []"
          :key="one.id"
          color="primary"
          :loading="holding.isPending.value"
          @click="holding.mutate(one.id)"
        >
          {{ t("startTheSet") }}<template v-if="page.classes.length > 1">: {{ one.name }}</template>
        </v-btn>
      </template></PageHead
    >
    <LoadState :query="query">
      <template v-if="page">
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <HandoutFile :file="current" :problem="unmade" />
        <RivalRow
          v-if="editing && week.data.value"
          class="no-print"
          :week-id="weekId"
          :challenges="page.challenges"
          :groups="week.data.value.groups"
          @kept="kept"
          @close="asked = false"
        />
        <div class="board scroll">
          <v-table
            class="sheet dense"
            :style="{ maxWidth: `${26 + 9 * page.challenges.length}rem` }"
          >
            <thead>
              <tr>
                <SortHead
                  :words="t('child')"
                  :direction="directionOf('child')"
                  @sort="sortBy('child')"
                />
                <th v-for="one in page.challenges" :key="one.id" scope="col" class="test">
                  <RouterLink :to="{ name: 'challenge', params: { challengeId: one.id } }">{{
                    one.test
                  }}</RouterLink>
                  <b v-if="one.rival" class="figure mark">{{
                    one.rival.made ? one.rival.shown : t("notSetYet")
                  }}</b>
                </th>
                <SortHead
                  class="number"
                  :words="t('beatIt')"
                  :direction="directionOf('beaten')"
                  @sort="sortBy('beaten')"
                />
              </tr>
            </thead>
            <tbody>
              <tr v-for="one in sorted" :key="one.pupil_id">
                <th scope="row">
                  <v-btn
                    variant="text"
                    size="small"
                    :aria-expanded="chosen === one.pupil_id"
                    @click="chosen = chosen === one.pupil_id ? '' : one.pupil_id"
                  >
                    {{ one.name }}
                  </v-btn>
                </th>
                <td
                  v-for="(cell, place) in one.cells"
                  :key="page.challenges[place]!.id"
                  :class="{ beaten: cell.beaten }"
                  :title="[cell.rival, cell.rung].filter(Boolean).join(' · ')"
                >
                  <span class="figure best">{{ cell.best || "–" }}</span>
                  <span class="quiet ahead">{{ cell.ahead }}</span>
                </td>
                <td class="figure sum number">
                  <template v-if="one.done">{{ one.beaten }}</template>
                </td>
              </tr>
            </tbody>
            <tfoot>
              <tr>
                <th scope="row">{{ t("beatTheRival") }}</th>
                <td v-for="one in page.challenges" :key="one.id" class="figure">
                  <template v-if="one.took_part"
                    >{{ one.beat_rival }}
                    <span class="quiet">{{
                      t("ofTookpart", { tookPart: one.took_part })
                    }}</span></template
                  >
                </td>
                <td></td>
              </tr>
            </tfoot>
          </v-table>
        </div>
        <section
          v-if="child"
          class="board stack own"
          :aria-label="t('sheetOfChild', { child: child.name })"
        >
          <h2>{{ child.name }}</h2>
          <p class="figure foot">{{ child.words || t("noScoresYet") }}</p>
          <ul class="lines">
            <li v-for="(cell, place) in child.cells" :key="page.challenges[place]!.id">
              <strong>{{ page.challenges[place]!.test }}</strong>
              <span class="figure">{{ cell.best || "–" }}</span>
              <span v-if="cell.goes > 1" class="quiet">{{ t("ofNGoes", { n: cell.goes }) }}</span>
              <span>{{
                [cell.rival, cell.rung, cell.new_best ? t("newBest") : ""]
                  .filter(Boolean)
                  .join(" · ")
              }}</span>
              <WhyButton v-if="cell.last" :attempt-id="cell.last" :label="child.name" />
            </li>
          </ul>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
  margin-top: var(--gap-12);
}
.sheet td,
.sheet th {
  padding: 0 var(--gap-8);
}
.test {
  max-width: 92px;
  font-size: var(--type-14);
  vertical-align: bottom;
}
.test a {
  display: flex;
  align-items: end;
  min-width: var(--dense);
  min-height: var(--dense);
  line-height: 1.15;
}
.mark {
  font-size: var(--type-24);
}
.best {
  font-size: var(--type-18);
}
.ahead {
  font-size: var(--type-14);
  margin-left: var(--gap-4);
}
/* Beaten: a line under the score, thick enough to be seen from the back. */
td.beaten {
  box-shadow: inset 0 -4px var(--line);
}
.sum {
  font-size: var(--type-24);
  text-align: center;
}
.own {
  margin-top: var(--gap-12);
}
.foot {
  font-size: var(--type-24);
}
.lines {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-4);
}
.lines li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-4) var(--gap-12);
  align-items: baseline;
}
</style>
