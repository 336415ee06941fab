<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/**
 * A ladder being made: ranges as they are printed, or rungs one by one; with what is wrong with it,
 * and how many of the school's children would have stood where last year, live.
 */
import { t } from "../messages/catalogue";
import { watchDebounced } from "@vueuse/core";
import { computed, reactive, ref } from "vue";
import { answer, client, wordsOf, type Schemas } from "../api/client";
import DraftNote from "../parts/form/DraftNote.vue";
import Lane from "../parts/Lane.vue";
import { useDraft } from "../parts/form/useDraft";

const props = defineProps<{
  page: Schemas["BenchmarksPage"];
  variant: string;
  ladder: Schemas["LadderRow"] | null;
}>();
const emit = defineEmits<{ kept: []; leave: []; change: [ladder: Schemas["LadderRow"]] }>();

interface LadderForm {
  whose: string;
  from: number;
  to: number;
  sex: "" | "female" | "male";
  /** The clock and course it was written for: the test's own unless changed. */
  seconds: number | null | "";
  course: string;
  source: string;
  printed: string;
  rungs: { name: string; at: string; beyond: boolean }[];
}
const NAMES = [t("nearLine"), t("centreLine"), t("farLine"), t("endWall")];
const old = props.ladder;
const form = reactive<LadderForm>({
  whose: old ? (old.year_group_id ?? "ages") : (props.page.year_groups[0]?.id ?? ""),
  from: old?.ages?.[0] ?? 7,
  to: old?.ages?.[1] ?? 8,
  sex: (old?.sex ?? "") as "" | "female" | "male",
  seconds: old ? old.seconds : props.page.seconds,
  course: old?.course ?? props.page.course ?? "",
  source: old?.source ?? t("theSchoolsOwn"),
  printed: "",
  rungs:
    old?.rungs.map((rung) => ({ name: rung.name, at: rung.typed, beyond: rung.beyond })) ??
    NAMES.map((name) => ({ name, at: "", beyond: false })),
});
const draft = useDraft(
  form,
  () => `ladder.${props.page.test_id}.${props.variant}.${old?.id ?? "new"}`,
);
const preview = ref<Schemas["LadderPreview"] | null>(null);
const problem = ref("");
const busy = ref(false);
/** What was typed last, and what was read last: only what was read can be kept. */
const typed = computed(() => JSON.stringify(body()));
const read = ref("");
const copies = ref<string[]>([]);
const whom = computed(() =>
  form.whose === "ages"
    ? { year_group_id: null, ages: [form.from, form.to] as [number, number] }
    : { year_group_id: form.whose, ages: null },
);
/** A ladder that stands where this one is to go. */
const there = computed(() =>
  props.page.ladders.find(
    (one) =>
      one.id !== old?.id &&
      one.variant === props.variant &&
      one.sex === form.sex &&
      (form.whose === "ages"
        ? one.ages?.[0] === form.from
        : one.year_group_id === form.whose && form.whose !== ""),
  ),
);
function body() {
  return {
    ...whom.value,
    sex: form.sex,
    variant: props.variant,
    printed: form.printed,
    rungs: form.rungs,
    seconds: form.seconds === "" ? null : form.seconds,
    course: form.course === (props.page.course ?? "") ? "" : form.course,
  };
}
const at_least = computed(() => (props.page.better === "up" ? t("atLeast") : t("atMost")));
const beyond = computed(() => (props.page.better === "up" ? t("moreThan") : t("lessThan")));

async function look() {
  if (!form.printed.trim() && !form.rungs.some((rung) => rung.at.trim())) {
    preview.value = null;
    problem.value = "";
    return;
  }
  const asked = typed.value;
  try {
    const found = await answer(
      client.POST("/api/tests/{test_id}/ladder-preview", {
        params: { path: { test_id: props.page.test_id } },
        body: body(),
      }),
    );
    if (asked !== typed.value) return;
    preview.value = found;
    read.value = asked;
    problem.value = "";
  } catch (error) {
    if (asked !== typed.value) return;
    // What cannot be read is not shown, and not kept, as what was read before it.
    preview.value = null;
    problem.value = wordsOf(error);
  }
}
watchDebounced(form, look, { debounce: 250, deep: true, immediate: true });

/** From which rung to which some children stand; −1 is below the first. */
function standing(one: Schemas["Reached"]): string {
  const name = (place: number) =>
    place < 0 ? t("belowTheFirstRung") : (preview.value?.rungs[place]?.name ?? "");
  const [from, to] = [name(one.from_rung), name(one.to_rung)];
  return from === to ? from : t("fromToTo", { from, to });
}
/** Printed ranges become rungs that can be touched up one by one. */
function turn() {
  if (!preview.value) return;
  form.rungs = preview.value.rungs.map((rung) => ({
    name: rung.name,
    at: rung.typed,
    beyond: rung.beyond,
  }));
  form.printed = "";
}
const keepable = computed(
  () => preview.value !== null && read.value === typed.value && !there.value && !problem.value,
);
async function save() {
  if (!keepable.value) return;
  busy.value = true;
  problem.value = "";
  const entry = {
    ...body(),
    source: form.source,
    // The names go with the printed ranges; without them, rungs that were filled in.
    rungs: form.printed.trim() ? form.rungs : form.rungs.filter((rung) => rung.at.trim()),
  };
  const test_id = props.page.test_id;
  try {
    const made = old
      ? await answer(
          client.PUT("/api/tests/{test_id}/ladders/{ladder_id}", {
            params: { path: { test_id, ladder_id: old.id } },
            body: entry,
          }),
        )
      : await answer(
          client.POST("/api/tests/{test_id}/ladders", {
            params: { path: { test_id } },
            body: entry,
          }),
        );
    if (copies.value.length) {
      await answer(
        client.POST("/api/ladders/{ladder_id}/copy", {
          params: { path: { ladder_id: made.id } },
          body: { year_group_ids: copies.value },
        }),
      );
    }
    draft.forget();
    emit("kept");
  } catch (error) {
    problem.value = wordsOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form class="board editor" @submit.prevent="save">
    <h3 class="figure">{{ ladder ? t("editTheLadder") : t("newLadder") }}</h3>
    <DraftNote :draft="draft" />
    <div class="line">
      <v-select
        v-model="form.whose"
        :aria-label="t('for')"
        :label="t('for')"
        :items="[
          ...page.year_groups.map((year) => ({ value: year.id, title: year.name })),
          { value: 'ages', title: t('anyAge') },
        ]"
      />
      <template v-if="form.whose === 'ages'">
        <v-text-field v-model.number="form.from" class="num" type="number" :label="t('from')" />
        <v-text-field v-model.number="form.to" class="num" type="number" :label="t('to')" />
      </template>
      <v-select
        v-model="form.sex"
        :aria-label="t('sex')"
        :label="t('sex')"
        :items="[
          { value: '', title: t('all') },
          { value: 'female', title: t('girls') },
          { value: 'male', title: t('boys') },
        ]"
      />
      <v-text-field
        v-if="page.seconds !== null || old?.seconds"
        v-model.number="form.seconds"
        class="num"
        type="number"
        min="1"
        :label="t('clockInSeconds')"
      />
      <v-text-field
        v-if="page.course"
        v-model="form.course"
        class="num"
        :placeholder="page.course"
        :label="t('courseLength')"
      />
      <v-text-field v-model="form.source" class="grow" maxlength="120" :label="t('source')" />
    </div>
    <p v-if="there" role="status" class="line finding">
      <strong>{{ t("thisAgeGroupHasALadder") }}</strong>
      <v-btn variant="outlined" @click="emit('change', there)">{{ t("editThatLadder") }}</v-btn>
    </p>
    <div class="sides mt-2">
      <div>
        <v-text-field
          v-model="form.printed"
          :placeholder="t('n791115MoreThan')"
          :label="t('rangesAsPrintedLowestFirst')"
        />
        <p class="quiet">{{ t("orEnterEachRung") }}</p>
        <div v-for="(rung, place) in form.rungs" :key="place" class="line rung">
          <v-text-field
            v-model="rung.name"
            class="name"
            :aria-label="t('nameOfRungPlace', { place: place + 1 })"
          />
          <v-select
            v-model="rung.beyond"
            :aria-label="t('howRungPlaceIsReached', { place: place + 1 })"
            :items="[
              { value: false, title: at_least },
              { value: true, title: beyond },
            ]"
          />
          <v-text-field
            v-model="rung.at"
            class="num"
            :aria-label="t('thresholdOfRungPlace', { place: place + 1 })"
          />
          <v-btn
            :icon="mdiClose"
            variant="text"
            :aria-label="t('deleteRungPlace', { place: place + 1 })"
            @click="form.rungs.splice(place, 1)"
          />
        </div>
        <v-btn
          v-if="form.rungs.length < 12"
          variant="outlined"
          class="mt-2"
          @click="form.rungs.push({ name: '', at: '', beyond: false })"
        >
          {{ t("addRung") }}
        </v-btn>
      </div>
      <div v-if="preview" class="preview" aria-live="polite">
        <p>
          <template v-if="preview.nested">{{ t("notShownYouLookedAtAnother") }}</template>
          <template v-else-if="preview.few">{{ t("fewerThan5ChildrenLastYear") }}</template>
          <template v-else
            ><i18n-t keypath="catalogue.nChildrenLastYear" scope="global"
              ><template #n
                ><b class="figure">{{ preview.scored }}</b></template
              ></i18n-t
            ></template
          >
          {{ t("underTheseConditions") }}
          <template v-if="preview.other">{{
            t("nScoreUnderOtherConditionsIs", preview.other)
          }}</template>
        </p>
        <Lane :lane="preview.lane" named :label="t('theLadder')" />
        <ul class="reached">
          <li v-for="rung in preview.rungs" :key="rung.name" :data-testid="`rung-${rung.name}`">
            {{ rung.name }}: {{ rung.beyond ? beyond : at_least }} {{ rung.shown }}
          </li>
        </ul>
        <template v-if="preview.reached.length">
          <h4>{{ t("whereLastYearsChildrenWouldBe") }}</h4>
          <ul class="reached" data-testid="reached">
            <li v-for="one in preview.reached" :key="one.from_rung">
              <b class="figure">{{ one.children }}</b> {{ standing(one) }}
            </li>
          </ul>
          <p class="quiet">{{ t("rungsWithFewerThan5Children") }}</p>
        </template>
        <p v-for="found in preview.findings" :key="found.words" class="finding">
          <span class="tag strong">{{ found.fault }}</span> {{ found.words }}
        </p>
        <p v-if="!preview.findings.length" class="quiet">{{ t("theRungsAreInOrderWith") }}</p>
        <v-btn v-if="form.printed.trim()" variant="outlined" @click="turn">
          {{ t("turnIntoRungs") }}
        </v-btn>
      </div>
      <p v-else class="quiet">{{ page.accepted }}</p>
    </div>
    <div class="line mt-2" role="group" :aria-label="t('copyToOtherYears')">
      <b>{{ t("copyTo") }}</b>
      <v-checkbox
        v-for="year in page.year_groups.filter((one) => one.id !== form.whose)"
        :key="year.id"
        v-model="copies"
        :value="year.id"
        :label="year.name"
      />
    </div>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <div class="line mt-2">
      <v-btn type="submit" color="primary" :loading="busy" :disabled="!keepable">{{
        t("saveLadder")
      }}</v-btn>
      <v-btn variant="text" @click="$emit('leave')">{{ t("cancel") }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
.editor {
  border-color: var(--line);
  margin: var(--gap-8) 0 var(--gap-12);
}
.editor h3 {
  font-size: var(--type-24);
}
.sides {
  display: grid;
  grid-template-columns: 5fr 6fr;
  gap: var(--gap-24);
}
.num {
  width: 92px;
}
.name {
  width: 150px;
}
.rung {
  margin-top: var(--gap-8);
  flex-wrap: nowrap;
}
.grow {
  flex: 1;
}
.reached {
  list-style: none;
  padding: 0;
}
.reached b,
.preview p b {
  font-size: var(--type-24);
}
.finding {
  margin-top: var(--gap-8);
}
@media (max-width: 860px) {
  .sides {
    grid-template-columns: 1fr;
  }
}
</style>
