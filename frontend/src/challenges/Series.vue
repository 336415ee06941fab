<script setup lang="ts">
/** A class's challenges week after week: one table, each child's story, and what could come next. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/challenges";
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { shortDay } from "../parts/words";
import SortHead from "../parts/table/SortHead.vue";
import { useTableSort } from "../parts/table/useTableSort";

const props = defineProps<{ classId: string }>();
const query = useQuery({
  queryKey: ["series", props.classId],
  queryFn: () =>
    answer(
      client.GET("/api/classes/{class_id}/series", {
        params: { path: { class_id: props.classId } },
      }),
    ),
  staleTime: 0,
});
const page = query.data;
const { sorted, sortBy, directionOf } = useTableSort(() => page.value?.children, {
  child: (one) => one.name,
  points: (one) => one.points,
});
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="page ? t('classWeekByWeek', { class: page.class_name }) : t('challenges')"
      ><template #trail
        ><RouterLink :to="{ name: 'challenges' }">{{ t("challenges") }}</RouterLink></template
      >
      <v-btn
        v-if="page?.like.length"
        color="primary"
        :to="{
          name: 'challenges',
          query: { class: classId, tests: page.like.map((one) => one.id).join(',') },
        }"
      >
        {{ t("nextWeekSomethingSimilar") }}
      </v-btn>
    </PageHead>
    <LoadState :query="query">
      <template v-if="page">
        <p v-if="page.like.length" class="quiet">
          {{
            t("similarTestsThisClassHasNot", { tests: page.like.map((one) => one.name).join(", ") })
          }}
        </p>
        <p v-if="!page.weeks.length" class="board">
          {{ t("noChallengeWeeksYetTheyWill") }}
        </p>
        <div v-else class="board scroll">
          <v-table>
            <thead>
              <tr>
                <SortHead
                  :words="t('child')"
                  :direction="directionOf('child')"
                  @sort="sortBy('child')"
                />
                <th v-for="week in page.weeks" :key="week.id" scope="col" class="week">
                  <RouterLink :to="{ name: 'week', params: { weekId: week.id } }">{{
                    week.name
                  }}</RouterLink>
                  <span class="quiet">{{ shortDay(week.starts_on) }}</span>
                </th>
                <SortHead
                  class="number"
                  :words="t('points')"
                  :direction="directionOf('points')"
                  @sort="sortBy('points')"
                />
                <th scope="col">{{ t("theStorySoFar") }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="one in sorted" :key="one.pupil_id">
                <th scope="row">
                  <RouterLink :to="{ name: 'pupil', params: { pupilId: one.pupil_id } }">{{
                    one.name
                  }}</RouterLink>
                </th>
                <td
                  v-for="(cell, place) in one.weeks"
                  :key="page.weeks[place]!.id"
                  :title="
                    t('tookTookPartGainedImprovedWith', {
                      took: cell.took_part,
                      gained: cell.gained,
                      beaten: cell.beaten,
                    })
                  "
                >
                  <template v-if="cell.took_part">
                    <b class="figure">{{ cell.points }}</b>
                    <span v-if="cell.gained" class="quiet"> ▲{{ cell.gained }}</span>
                  </template>
                  <span v-else class="quiet">–</span>
                </td>
                <td class="figure sum number">{{ one.points || "" }}</td>
                <td>{{ one.story }}</td>
              </tr>
            </tbody>
            <tfoot>
              <tr>
                <th scope="row">{{ t("tookPart") }}</th>
                <td v-for="week in page.weeks" :key="week.id" class="figure">
                  {{ week.took_part }}
                  <span class="quiet">{{
                    t("ofChildren", { children: page.children.length })
                  }}</span>
                </td>
                <td></td>
                <td class="quiet">{{ t("betterWithAnotherGo") }}</td>
              </tr>
            </tfoot>
          </v-table>
        </div>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
  margin-top: var(--gap-8);
}
td,
th {
  padding-block: var(--gap-4);
}
.week {
  max-width: 130px;
  vertical-align: bottom;
}
.week a,
.week .quiet {
  display: block;
}
td .figure,
td.sum {
  font-size: var(--type-24);
}
</style>
