<script setup lang="ts">
/** A page a child for its family, with a line from the teacher; the whole class in one file. */
import { t } from "../messages/exchange";
import { useMutation, useQuery } from "@tanstack/vue-query";
import { computed, reactive, ref, watch } from "vue";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import HandoutFile from "../parts/files/HandoutFile.vue";
import { useHandout } from "../parts/files/useHandout";

const props = defineProps<{ classId: string }>();
const path = { class_id: props.classId };
const lines = useQuery({
  queryKey: ["family-lines", props.classId],
  queryFn: () => answer(client.GET("/api/classes/{class_id}/family-lines", { params: { path } })),
});
const children = computed(() => lines.data.value ?? []);
const chosen = ref<string[]>([]);
const typed = reactive<Record<string, string>>({});
watch(
  children,
  (rows) => {
    for (const one of rows) typed[one.pupil_id] ??= one.text;
  },
  { immediate: true },
);
// A line that is kept and read again chooses nobody anew: only other children do.
watch(
  () => children.value.map((one) => one.pupil_id).join(),
  () => (chosen.value = children.value.map((one) => one.pupil_id)),
  { immediate: true },
);
const keeping = useMutation({
  mutationFn: (pupilId: string) =>
    answer(
      client.PUT("/api/pupils/{pupil_id}/family-line", {
        params: { path: { pupil_id: pupilId } },
        body: { text: typed[pupilId] ?? "" },
      }),
    ),
});
const { current, problem, busy, begin } = useHandout();
const make = () =>
  begin(() =>
    answer(
      client.POST("/api/classes/{class_id}/reports", {
        params: { path },
        body: {
          pupil_ids: chosen.value.length === children.value.length ? null : chosen.value,
        },
      }),
    ),
  );
</script>

<template>
  <section class="board">
    <h2>{{ t("familyReports") }}</h2>
    <p>
      {{ t("onePageForEachChildAnd") }}
    </p>
    <div class="line mt-2">
      <v-btn color="primary" size="large" :disabled="!chosen.length" :loading="busy" @click="make">
        {{ t("makeNReport", chosen.length) }}
      </v-btn>
    </div>
    <HandoutFile :file="current" :problem="problem" />
    <LoadState :query="lines">
      <p v-if="!children.length" class="quiet">{{ t("thisClassHasNoChildrenYet") }}</p>
      <v-table v-else class="middle">
        <thead>
          <tr>
            <th scope="col">
              <v-checkbox
                class="pick"
                :model-value="chosen.length === children.length"
                :label="t('allChildren')"
                @update:model-value="
                  chosen =
                    chosen.length === children.length ? [] : children.map((one) => one.pupil_id)
                "
              />
            </th>
            <th scope="col">{{ t("yourCommentUpTo300Characters") }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="child in children" :key="child.pupil_id">
            <th scope="row">
              <v-checkbox
                v-model="chosen"
                class="pick"
                :value="child.pupil_id"
                :label="child.name"
              />
            </th>
            <td>
              <v-text-field
                v-model="typed[child.pupil_id]"
                class="wide"
                maxlength="300"
                :aria-label="t('commentForTheFamilyOfChild', { child: child.name })"
                @change="keeping.mutate(child.pupil_id)"
              />
            </td>
          </tr>
        </tbody>
      </v-table>
    </LoadState>
    <p v-if="keeping.error.value" role="alert" class="problem">
      {{ t("problemYourTextIsStillHere", { problem: keeping.error.value.message }) }}
    </p>
  </section>
</template>

<style scoped>
.pick {
  flex-wrap: nowrap;
  white-space: nowrap;
}
.wide {
  width: 100%;
  min-height: var(--control);
}
</style>
