<script setup lang="ts">
/** Something else instead of what is planned, from now on. */
import { t } from "../../messages/lessons";
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answer, client } from "../../api/client";
import { useTests } from "../../catalogue/useTests";
import { vFocus } from "../../parts/form/focus";
import { useConductor } from "./clock/useConductor";
import type { Hall } from "./useHall";

const props = defineProps<{ hall: Hall; lessonId: string }>();
const open = defineModel<boolean>({ required: true });
const lead = useConductor();
const queries = useQueryClient();
const tests = useTests(open);
const instead = ref("");
const station = ref("");
const { segment } = props.hall;
const block = computed(() => lead.plan.value?.blocks[segment.value?.block ?? -1]);
const stations = computed(() => block.value?.rotation?.stations ?? null);
const isTest = computed(() => block.value?.kind === "test");

watch(open, (is) => {
  if (!is) return;
  instead.value = "";
  station.value = stations.value?.[0] ?? "";
  swapping.reset();
});
const swapping = useMutation({
  async mutationFn() {
    const label = instead.value.trim();
    if (!label) throw new Error(t("typeWhatIsDoneInstead"));
    const activity = isTest.value ? await added(label) : null;
    const seconds = activity ? (chosen.value?.seconds ?? null) : null;
    lead.swap(label, activity, { seconds, ...(stations.value && { station: station.value }) });
  },
  onSuccess: () => (open.value = false),
});
const chosen = computed(() =>
  isTest.value ? tests.data.value?.find((one) => one.name === instead.value.trim()) : undefined,
);
async function added(label: string): Promise<string> {
  const test = tests.data.value?.find((one) => one.name === label);
  if (!test) throw new Error(t("chooseATestFromTheCatalogue"));
  const params = { path: { lesson_id: props.lessonId } };
  const body = { test_id: test.id };
  const made = await answer(client.POST("/api/lessons/{lesson_id}/activities", { params, body }));
  await queries.invalidateQueries({ queryKey: ["lesson", props.lessonId] });
  return made.id;
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" :aria-label="t('swap')">
    <form class="board stack" @submit.prevent="swapping.mutate()">
      <h2>
        {{
          t("replaceBlock", {
            block: stations ? t("aStation") : isTest ? block?.label : segment?.label,
          })
        }}
      </h2>
      <v-select
        v-if="stations"
        v-model="station"
        :label="t('station')"
        :items="stations.map((one) => ({ value: one, title: one }))"
      />
      <v-autocomplete
        v-if="isTest"
        v-model="instead"
        v-focus
        auto-select-first
        :items="tests.data.value ?? []"
        item-title="name"
        item-value="name"
        :label="t('testToDoInsteadFromNow')"
      />
      <v-text-field
        v-else
        v-model="instead"
        v-focus
        maxlength="80"
        autocomplete="off"
        :label="t('whatToDoFromNowOn')"
      />
      <p v-if="isTest" class="quiet" data-testid="clock-after">
        <template v-if="chosen?.seconds">{{
          t("eachGoNowTakesSecondsS", { seconds: chosen.seconds })
        }}</template><template v-else-if="chosen">{{ t("thisTestHasNoClockGo") }}</template
        ><template v-else>{{ t("eachGoTakesAsLongAs") }}</template>
        {{ t("aGoInProgressStartsAgain") }}
      </p>
      <p v-else class="quiet">
        {{ t("theClockDoesNotChangeUse") }}
      </p>
      <p v-if="swapping.error.value" role="alert" class="problem">
        {{ swapping.error.value.message }}
      </p>
      <div class="line">
        <v-btn type="submit" color="primary" :loading="swapping.isPending.value">{{
          t("swap")
        }}</v-btn>
        <v-btn variant="outlined" @click="open = false">{{ t("cancel") }}</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
