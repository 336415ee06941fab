<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** The whole school goes up a year: shown first, with exceptions, and taken back in one press. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/school";
import { forget } from "../parts/forget";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { ApiError, answer, client, type Schemas } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { ask } from "../parts/form/ask";
import { shortDay } from "../parts/words";

const queries = useQueryClient();
const page = useQuery({
  queryKey: ["move-up"],
  queryFn: () => answer(client.GET("/api/school/move-up")),
  staleTime: 0,
});
type Move = { class_id: string; name: string; year_group_id: string | null };
const moves = ref<Record<string, Move>>({});
/** Children who do not go along: by child, the class they are to be in, or "" for gone. */
const exceptions = ref<Record<string, string>>({});
const added = ref<{ name: string; year_group_id: string }[]>([]);
const open = ref<string | null>(null);
watch(
  () => page.data.value,
  (found) => {
    if (!found) return;
    // What was chosen stays when a child comes or goes meanwhile.
    moves.value = Object.fromEntries(
      found.classes.map((one) => [
        one.id,
        moves.value[one.id] ?? {
          class_id: one.id,
          name: one.to_name,
          year_group_id: one.to_year_group_id,
        },
      ]),
    );
    const here = new Set(found.classes.flatMap((one) => one.pupils.map((pupil) => pupil.id)));
    exceptions.value = Object.fromEntries(
      Object.entries(exceptions.value).filter(([pupil]) => here.has(pupil)),
    );
  },
  { immediate: true },
);
const staying = computed(() => Object.values(moves.value).filter((one) => one.year_group_id));
const leavers = computed(() =>
  (page.data.value?.classes ?? []).flatMap((group) =>
    group.pupils.filter((pupil) => {
      const exception = exceptions.value[pupil.id];
      return exception === "" || (exception === undefined && !moves.value[group.id]?.year_group_id);
    }),
  ),
);
function except(pupil: string, to: string) {
  if (to === "along") forget(exceptions.value, pupil);
  else exceptions.value[pupil] = to;
}
const exceptionsOf = (group: Schemas["MovingClass"]) =>
  group.pupils.filter((pupil) => exceptions.value[pupil.id] !== undefined).length;

function take(found: Schemas["MoveUpPreview"]) {
  moves.value = {};
  exceptions.value = {};
  added.value = [];
  queries.setQueryData(["move-up"], found);
  return queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "move-up" });
}
const moving = useMutation({
  mutationFn: (sure: boolean) =>
    answer(
      client.POST("/api/school/move-up", {
        body: {
          moves: Object.values(moves.value),
          exceptions: Object.entries(exceptions.value).map(([pupil_id, to]) => ({
            pupil_id,
            class_id: to || null,
          })),
          new: added.value.filter((one) => one.name.trim()),
          sure,
        },
      }),
    ),
  onSuccess: take,
});
const undoing = useMutation({
  mutationFn: () => answer(client.DELETE("/api/school/move-up")),
  onSuccess(found) {
    moving.reset();
    return take(found);
  },
});
const whoMoves = computed(() =>
  [t("nClassMovesUp", staying.value.length), t("nChildLeaves", leavers.value.length)].join(", "),
);
async function move() {
  const sure = await ask({
    title: t("moveTheWholeSchoolUp"),
    words: t("whoYouCanUndoThisUntil", { who: whoMoves.value }),
    yes: t("moveUp"),
  });
  if (sure) moving.mutate(false);
}
const asks = computed(() => {
  const error = moving.error.value;
  return error instanceof ApiError && error.sure;
});
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('moveUpAYear')"
      ><template #trail
        ><RouterLink :to="{ name: 'school' }">{{ t("school") }}</RouterLink></template
      ></PageHead
    >
    <LoadState :query="page">
      <template v-if="page.data.value">
        <div v-if="page.data.value.last" class="board line mb-4" role="status">
          <span>
            <i18n-t keypath="school.movedBelowIsTheYearAfter" scope="global"
              ><template #moved
                ><b>{{
                  t("theSchoolMovedUpOnDay", { day: shortDay(page.data.value.last) })
                }}</b></template
              ></i18n-t
            >
          </span>
          <v-btn
            v-if="page.data.value.undoable"
            variant="outlined"
            :loading="undoing.isPending.value"
            @click="undoing.mutate()"
          >
            {{ t("undo") }}
          </v-btn>
          <span v-else class="quiet">
            {{ t("theNewYearAlreadyHasScores") }}
          </span>
        </div>
        <p v-if="undoing.error.value" role="alert" class="problem">
          {{ undoing.error.value.message }}
        </p>
        <p class="quiet">
          {{ t("everyChildsHistoryMovesWithThem") }}
        </p>
        <form class="board mt-2" @submit.prevent="move">
          <div class="scroll">
            <v-table>
              <thead>
                <tr>
                  <th scope="col">{{ t("classNow") }}</th>
                  <th scope="col">
                    <span class="sr-only">{{ t("becomes") }}</span>
                  </th>
                  <th scope="col">{{ t("nextYear") }}</th>
                  <th scope="col">{{ t("newName") }}</th>
                  <th scope="col">{{ t("children") }}</th>
                </tr>
              </thead>
              <tbody>
                <template v-for="group in page.data.value.classes" :key="group.id">
                  <tr v-if="moves[group.id]">
                    <th scope="row">
                      <span class="figure name">{{ group.name }}</span>
                      <span class="quiet year">{{ group.year_group }}</span>
                    </th>
                    <td class="arrow" aria-hidden="true">
                      {{ moves[group.id]!.year_group_id ? "→" : "✕" }}
                    </td>
                    <td>
                      <v-select
                        v-model="moves[group.id]!.year_group_id"
                        :aria-label="t('whereClassGoes', { class: group.name })"
                        :items="[
                          ...page.data.value.year_groups.map((year) => ({
                            value: year.id,
                            title: year.name,
                          })),
                          { value: null, title: t('leaveTheSchool') },
                        ]"
                      />
                    </td>
                    <td>
                      <v-text-field
                        v-if="moves[group.id]!.year_group_id"
                        v-model="moves[group.id]!.name"
                        maxlength="40"
                        :aria-label="t('newNameOfClass', { class: group.name })"
                      />
                    </td>
                    <td>
                      <v-btn
                        variant="outlined"
                        size="small"
                        :aria-expanded="open === group.id"
                        @click="open = open === group.id ? null : group.id"
                      >
                        {{ group.pupils.length }}
                        <template v-if="exceptionsOf(group)">
                          , {{ t("nException", exceptionsOf(group)) }}
                        </template>
                      </v-btn>
                    </td>
                  </tr>
                  <tr v-if="open === group.id">
                    <td colspan="5">
                      <ul class="children">
                        <li v-for="pupil in group.pupils" :key="pupil.id">
                          <span>{{ pupil.name }}</span>
                          <v-select
                            :aria-label="t('whereClassGoes', { class: pupil.name })"
                            :model-value="exceptions[pupil.id] ?? 'along'"
                            :items="[
                              { value: 'along', title: t('movesWithTheClass') },
                              ...staying
                                .filter((each) => each.class_id !== group.id)
                                .map((one) => ({
                                  value: one.class_id,
                                  title: t('movesToClass', { class: one.name }),
                                })),
                              { value: '', title: t('leaves') },
                            ]"
                            @update:model-value="except(pupil.id, $event)"
                          />
                        </li>
                      </ul>
                    </td>
                  </tr>
                </template>
                <tr v-for="(one, n) in added" :key="t('newClassN', { n })">
                  <th scope="row">
                    <span class="quiet">{{ t("aNewClass") }}</span>
                  </th>
                  <td class="arrow" aria-hidden="true">+</td>
                  <td>
                    <v-select
                      v-model="one.year_group_id"
                      :aria-label="t('yearGroupOfNewClassN', { n: n + 1 })"
                      :items="
                        page.data.value.year_groups.map((year) => ({
                          value: year.id,
                          title: year.name,
                        }))
                      "
                    />
                  </td>
                  <td>
                    <v-text-field
                      v-model="one.name"
                      maxlength="40"
                      :aria-label="t('nameOfNewClassN', { n: n + 1 })"
                    />
                  </td>
                  <td>
                    <v-btn
                      :icon="mdiClose"
                      variant="text"
                      type="button"
                      :aria-label="t('removeNewClassN', { n: n + 1 })"
                      @click="added.splice(n, 1)"
                    />
                  </td>
                </tr>
              </tbody>
            </v-table>
          </div>
          <p v-if="moving.error.value" role="alert" class="problem">
            {{ moving.error.value.message }}
            <v-btn v-if="asks" size="small" variant="outlined" @click="moving.mutate(true)">
              {{ t("yesMoveUpAgain") }}
            </v-btn>
          </p>
          <div class="line mt-2">
            <v-btn type="submit" color="primary" size="large" :loading="moving.isPending.value">
              {{ t("moveUp") }}
            </v-btn>
            <v-btn
              type="button"
              variant="outlined"
              @click="
                added.push({ name: '', year_group_id: page.data.value.year_groups[0]?.id ?? '' })
              "
            >
              {{ t("newClass") }}
            </v-btn>
            <span>
              {{ whoMoves }}
            </span>
          </div>
        </form>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.name {
  font-size: var(--type-24);
  margin-right: var(--gap-12);
}
.year {
  font-weight: 400;
}
.arrow {
  font-size: var(--type-24);
  color: var(--line);
}
th[scope="row"] {
  text-align: left;
}
td .v-text-field {
  min-width: 160px;
}
.children {
  list-style: none;
  padding: 0;
  columns: 2 360px;
}
.children li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--gap-8);
  padding: var(--gap-4) 0;
  break-inside: avoid;
}
</style>
