<script setup lang="ts">
/** One rival for several challenges, and its marks in one row. */
import { t } from "../messages/challenges";
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { computed, onMounted, reactive, ref, useTemplateRef, watch } from "vue";
import { answer, client, wordsOf, type Schemas } from "../api/client";
import { RIVALS } from "../api/vocabulary";
import { useTests } from "../catalogue/useTests";
import DraftNote from "../parts/form/DraftNote.vue";
import { toNextField } from "../parts/form/focus";
import { useDraft } from "../parts/form/useDraft";

type Kind = Schemas["RivalKind"];
const props = defineProps<{
  weekId: string;
  challenges: { id: string; test_id: string; test: string; rival: Schemas["Rival"] | null }[];
  groups: Schemas["GroupRef"][];
}>();
const emit = defineEmits<{ kept: [week: Schemas["WeekPage"]]; close: [] }>();
const tests = useTests();
const testOf = (id: string) => tests.data.value?.find((one) => one.id === id);

const NO_MARK = { typed: "", variant: "", course: "" };
const first = computed(() => props.challenges.find((one) => one.rival)?.rival ?? null);
const kind = ref<Kind | "">(first.value?.kind ?? "person");
const name = ref(first.value?.kind === "person" ? first.value.name : "");
const group = ref("");
const best = ref(false);
const rung = ref(first.value?.rung ?? 1);
const marks = reactive(
  Object.fromEntries(
    props.challenges.map((one) => {
      const held = one.rival?.kind === "person" ? one.rival : null;
      const typed = held?.typed ?? "";
      return [one.id, { typed, variant: held?.variant ?? "", course: held?.course ?? "" }];
    }),
  ),
);
// Where nothing is said a mark is of the usual form: it is chosen, so that it can be seen.
watch(
  () => tests.data.value,
  () => {
    for (const one of props.challenges) {
      const variants = testOf(one.test_id)?.variants ?? [];
      const mark = marks[one.id];
      if (mark && !mark.variant && variants.length) {
        mark.variant = (variants.find((each) => each.usual) ?? variants[0])?.code ?? "";
      }
    }
  },
  { immediate: true },
);
const draft = useDraft(reactive({ kind, name, group, best, rung, marks }), () =>
  tests.data.value ? ["rival", ...props.challenges.map((one) => one.id)].join(".") : null,
);
const row = useTemplateRef<HTMLElement>("row");
// Who is named already has only marks to be typed.
onMounted(() => {
  if (name.value) row.value?.querySelector<HTMLInputElement>(".mark input")?.focus();
});
/** After the last mark Enter keeps the row, as in any form. */
function next(event: KeyboardEvent) {
  if (toNextField(row.value, event, ".mark input")) event.preventDefault();
}
const queries = useQueryClient();
/** In which tests a group is no rival. */
const left = ref("");
const keeping = useMutation({
  mutationFn: () => {
    const chosen = props.groups.find((one) => one.id === group.value);
    return answer(
      client.PUT("/api/weeks/{week_id}/rival", {
        params: { path: { week_id: props.weekId } },
        body: {
          kind: kind.value || null,
          name: name.value,
          class_id: chosen && !chosen.house ? chosen.id : null,
          house_id: chosen?.house ? chosen.id : null,
          best: best.value,
          rung: kind.value === "rung" ? rung.value : null,
          marks: props.challenges.map((one) => ({
            challenge_id: one.id,
            ...NO_MARK,
            ...(kind.value === "person" ? marks[one.id] : {}),
          })),
        },
      }),
    );
  },
  onSuccess: (week) => {
    draft.forget();
    const asked = new Set(props.challenges.map((one) => one.id));
    const without = week.challenges.filter((one) => asked.has(one.id) && !one.rival);
    if (!kind.value || !without.length) {
      emit("kept", week);
      return;
    }
    const tests = without.map((one) => one.test).join(", ");
    left.value = t("savedNoRivalYetInTests", { tests });
    return queries.invalidateQueries();
  },
});
const problem = computed(() => (keeping.error.value ? wordsOf(keeping.error.value) : ""));
</script>

<template>
  <form class="board stack" :aria-label="t('theRival')" @submit.prevent="keeping.mutate()">
    <DraftNote :draft="draft" />
    <div class="line">
      <v-select
        v-model="kind"
        :label="t('rival')"
        :items="[
          ...RIVALS.map((one) => ({ value: one.code, title: one.words })),
          { value: '', title: t('nobody') },
        ]"
      />
      <v-text-field
        v-if="kind === 'person'"
        v-model="name"
        maxlength="60"
        :placeholder="t('theHeadTeacher')"
        :label="t('name')"
      />
      <template v-if="kind === 'group'">
        <v-select
          v-model="group"
          required
          :label="t('classOrHouse')"
          :items="groups.map((one) => ({ value: one.id, title: one.name }))"
        />
        <v-select
          v-model="best"
          :label="t('whose')"
          :items="[
            { value: false, title: t('medianScore') },
            { value: true, title: t('bestScore') },
          ]"
        />
      </template>
      <v-text-field
        v-if="kind === 'rung'"
        v-model.number="rung"
        class="num"
        type="number"
        min="1"
        max="12"
        :label="t('rungLowestFirst')"
      />
    </div>
    <div v-if="kind === 'person'" ref="row" class="marks">
      <div v-for="one in challenges" :key="one.id" class="one">
        <v-text-field
          v-model="marks[one.id]!.typed"
          class="mark figure"
          autocomplete="off"
          :placeholder="t('notSetYet')"
          :label="one.test"
          @keydown.enter="next"
        />
        <v-select
          v-if="(testOf(one.test_id)?.variants.length ?? 0) > 1"
          v-model="marks[one.id]!.variant"
          class="small"
          :aria-label="t('formForTest', { test: one.test })"
          :items="
            (testOf(one.test_id)?.variants ?? []).map((each) => ({
              value: each.code,
              title: each.name,
            }))
          "
        />
        <v-text-field
          v-if="testOf(one.test_id)?.course"
          v-model="marks[one.id]!.course"
          class="small"
          :aria-label="t('courseForTest', { test: one.test })"
          :placeholder="t('usualCourse')"
          autocomplete="off"
        />
      </div>
    </div>
    <p class="quiet">
      <template v-if="kind === 'person'">{{ t("enterAScoreAsYouWould") }}</template>
      <template v-else-if="kind === 'group'">{{ t("theBestEachChildHasDone") }}</template>
      <template v-else-if="kind === 'self'">{{ t("eachChildAgainstTheirOwnLast") }}</template>
      <template v-else-if="kind === 'rung'">{{ t("eachChildAgainstTheLadderFor") }}</template>
    </p>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <p v-if="left" role="status">{{ left }}</p>
    <div class="line">
      <v-btn type="submit" color="primary" :loading="keeping.isPending.value">{{
        t("saveRival")
      }}</v-btn>
      <v-btn variant="outlined" @click="$emit('close')">
        {{ left ? t("close") : t("cancel") }}
      </v-btn>
    </div>
  </form>
</template>

<style scoped>
.marks {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-8) var(--gap-12);
}
.one {
  width: 136px;
  display: grid;
  gap: var(--gap-4);
  align-content: start;
}
.mark {
  font-size: var(--type-24);
  width: 100%;
}
.small {
  min-height: var(--control);
  width: 100%;
  font-size: var(--type-14);
}
.num {
  width: 90px;
}
</style>
