<script setup lang="ts">
/** What a class might be tested in next, for whom another form fits; one press makes the lesson. */
import PageHead from "../parts/PageHead.vue";
import Fold from "../parts/Fold.vue";
import { t } from "../messages/progress";
import { useMutation, useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { answer, client } from "../api/client";
import ClassTabs from "../parts/ClassTabs.vue";
import LoadState from "../parts/LoadState.vue";
import { useOwnId } from "../parts/form/useOwnId";
import { localInput, shortDay } from "../parts/words";

const props = defineProps<{ classId: string }>();
const router = useRouter();
const page = useQuery({
  queryKey: ["next", props.classId],
  queryFn: () =>
    answer(
      client.GET("/api/classes/{class_id}/next", {
        params: { path: { class_id: props.classId } },
      }),
    ),
});
const tests = computed(() => page.data.value?.tests ?? []);
/** What is due is chosen; nobody is surprised by the rest. */
const chosen = ref<string[]>([]);
watch(tests, (found) => {
  chosen.value = found.filter((one) => one.due).map((one) => one.test_id);
});
const at = ref(localInput(new Date()));
const minutes = ref(50);
const place = ref(t("hall"));
const id = useOwnId(() => [chosen.value, at.value, minutes.value, place.value]);
const making = useMutation({
  mutationFn: () =>
    answer(
      client.POST("/api/lessons", {
        body: {
          id: id.value,
          class_id: props.classId,
          activity_ids: [],
          test_ids: chosen.value,
          starts_at: new Date(at.value).toISOString(),
          minutes: minutes.value,
          place: place.value,
          pulses: false,
        },
      }),
    ),
  onSuccess: (made) => router.push({ name: "plan", params: { lessonId: made.id } }),
});
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="page.data.value?.class_name ?? t('class')"
      ><template #beside><ClassTabs :class-id="classId" /></template
    ></PageHead>
    <LoadState :query="page">
      <template v-if="page.data.value">
        <p v-if="!tests.length" class="board">
          {{ t("suggestionsAppearHereOnceHalf") }}
        </p>
        <form v-else @submit.prevent="making.mutate()">
          <div class="board scroll">
            <v-table>
              <thead>
                <tr>
                  <th scope="col">{{ t("test") }}</th>
                  <th scope="col">{{ t("last") }}</th>
                  <th scope="col">{{ t("missingThisTerm") }}</th>
                  <th scope="col">{{ t("readyForAHarderForm") }}</th>
                  <th scope="col">{{ t("couldTryAnEasierForm") }}</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="test in tests" :key="test.test_id">
                  <th scope="row">
                    <v-checkbox
                      v-model="chosen"
                      class="pick"
                      :value="test.test_id"
                      :label="test.test"
                    />
                    <p v-if="test.try_instead" class="quiet light">{{ test.try_instead }}</p>
                  </th>
                  <td>
                    {{ shortDay(test.last) }}
                    <span class="tag" :class="{ strong: test.due }">{{
                      test.due ? t("dueAgain") : t("notDueYet")
                    }}</span>
                  </td>
                  <td>{{ test.missing || t("nobody") }}</td>
                  <td v-for="(rows, side) in [test.harder, test.easier]" :key="side">
                    <Fold v-if="rows.length">
                      <template #title>{{ t("nChild", rows.length) }}</template>
                      <ul>
                        <li v-for="one in rows" :key="one.pupil_id">
                          {{ one.name }}: {{ one.form }} <span class="quiet">{{ one.why }}</span>
                        </li>
                      </ul>
                    </Fold>
                    <span v-else class="quiet">{{ t("nobody") }}</span>
                  </td>
                </tr>
              </tbody>
            </v-table>
          </div>
          <div class="line mt-4">
            <v-text-field v-model="at" type="datetime-local" required :label="t('when')" />
            <v-text-field
              v-model.number="minutes"
              type="number"
              min="10"
              max="180"
              :label="t('minutes')"
            />
            <v-text-field v-model="place" maxlength="60" required :label="t('place')" />
            <v-btn
              type="submit"
              color="primary"
              size="large"
              :disabled="!chosen.length"
              :loading="making.isPending.value"
            >
              {{ t("makeALessonWithNTest", chosen.length) }}
            </v-btn>
          </div>
          <p v-if="making.error.value" role="alert" class="problem">
            {{ making.error.value.message }}
          </p>
          <p class="quiet mt-2">
            {{ t("aTestIsDueAgainIn") }}
          </p>
        </form>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.pick {
  flex-wrap: nowrap;
}
.light {
  font-weight: 400;
}
</style>
