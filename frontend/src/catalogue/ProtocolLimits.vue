<script setup lang="ts">
/** Limits, steps and free conditions of a protocol, in the unit they are measured in. */
import { t } from "../messages/catalogue";
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { CONDITIONS, KINDS } from "../api/vocabulary";
import { unitSize } from "./words";

type Protocol = Schemas["Protocol"];
/** The fields kept in canonical units: milliseconds, millimetres, grams. */
type Limit = "lowest" | "highest" | "cap" | "resolution" | "default_typical_error";

const form = defineModel<Protocol>("form", { required: true });
const conditions = defineModel<Record<string, string>>("conditions", { required: true });
/** How a free condition may be typed. */
const SAMPLES: Record<(typeof CONDITIONS)[number]["code"], string> = {
  course_mm: "10m",
  step_mm: "30cm",
  target_mm: "3m",
  ball: t("softSize3"),
  beat: t("n20AMinute"),
  movement: "squats",
  calls: t("asPlanned"),
};
const LIMITS: { field: Limit; words: string; placeholder?: string }[] = [
  { field: "lowest", words: t("minimum") },
  { field: "highest", words: t("mostAnyoneCanDo") },
  { field: "cap", words: t("maximumOfTheTest"), placeholder: t("none") },
  { field: "resolution", words: t("smallestStep") },
];
const unit = computed(() => form.value.unit);
const size = computed(() => unitSize(unit.value));
const grows = computed(() => form.value.error_share != null);
const byAge = computed(() =>
  (form.value.errors_by_age ?? [])
    .map(([age, value]) => {
      const amount = grows.value ? value * 100 : value / size.value;
      return `${age}: ${Math.round(amount * 100) / 100}`;
    })
    .join(", "),
);
const kind = computed(() => KINDS.find((one) => one.code === form.value.kind)?.words ?? "");

function shown(field: Limit): number | "" {
  const value = form.value[field];
  return value == null ? "" : Math.round((value / size.value) * 1e6) / 1e6;
}
function set(field: Limit, event: Event) {
  const text = (event.target as HTMLInputElement).value;
  if (text === "") {
    if (field === "cap") form.value.cap = null;
    return;
  }
  const exact = Number(text) * size.value;
  // One value for everybody takes the place of the values by age, which would go before it.
  if (field === "default_typical_error") form.value.errors_by_age = [];
  form.value[field] = field === "default_typical_error" ? exact : Math.round(exact);
}
function setShare(event: Event) {
  const percent = Number((event.target as HTMLInputElement).value);
  if (!(percent > 0)) return;
  form.value.error_share = Math.round(percent * 10) / 1000;
  form.value.errors_by_age = [];
}
</script>

<template>
  <fieldset class="board">
    <legend class="figure">{{ t("limitsAndConditions") }}</legend>
    <p class="quiet">{{ t("kindInUnit", { kind, unit }) }}</p>
    <div class="fields">
      <v-text-field
        v-for="one in LIMITS"
        :key="one.field"
        type="number"
        step="any"
        :placeholder="one.placeholder"
        :model-value="shown(one.field)"
        :label="`${one.words}, ${unit}`"
        @change="set(one.field, $event)"
      />
      <v-text-field
        v-model="form.most_a_second"
        type="number"
        step="0.1"
        :label="t('mostPerSecond')"
      />
      <v-text-field
        v-if="grows"
        type="number"
        step="0.1"
        min="0.1"
        :model-value="Math.round((form.error_share ?? 0) * 1000) / 10"
        :label="t('dayToDayVariationOfThe')"
        :hint="byAge ? t('nowByAgeAges', { ages: byAge }) : undefined"
        persistent-hint
        @change="setShare"
      />
      <v-text-field
        v-else
        type="number"
        step="any"
        :model-value="shown('default_typical_error')"
        :label="t('dayToDayVariationUnit', { unit })"
        :hint="byAge ? t('nowByAgeAges', { ages: byAge }) : undefined"
        persistent-hint
        @change="set('default_typical_error', $event)"
      />
      <v-text-field
        v-for="one in CONDITIONS"
        :key="one.code"
        v-model="conditions[one.code]"
        :placeholder="t('noneOrExample', { example: SAMPLES[one.code] })"
        :label="one.words"
      />
    </div>
  </fieldset>
</template>

<style scoped>
fieldset {
  min-width: 0;
}
legend {
  font-size: var(--type-24);
  padding: 0 var(--gap-8);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: var(--gap-12);
  align-items: end;
}
.condition {
  display: block;
}
.condition::first-letter {
  text-transform: uppercase;
}
.fields .field {
  width: 100%;
}
</style>
