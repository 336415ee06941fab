<script setup lang="ts">
/** How far a test repeats itself in this school: rows of a list of terms. */
import { t } from "../messages/parts";
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../api/client";

const props = defineProps<{ testId: string }>();
const repeats = useQuery({
  queryKey: ["reliability", props.testId],
  queryFn: () =>
    answer(
      client.GET("/api/tests/{test_id}/reliability", {
        params: { path: { test_id: props.testId } },
      }),
    ),
});
</script>

<template>
  <div v-for="form in repeats.data.value" :key="form.form">
    <dt>{{ t("repeatabilityForm", { form: form.form ? `, ${form.form}` : "" }) }}</dt>
    <dd>
      <template v-if="form.why_not">{{
        t("nSoFarWhy", { n: form.pairs, why: form.why_not })
      }}</template>
      <template v-else>
        {{ form.words }}
        <span class="quiet">
          {{
            t(
              "icc31IccTypicalError",
              {
                icc: form.icc || "–",
                error: form.error,
                cv: form.cv ? ` (${form.cv})` : "",
                learning: form.learning,
                n: form.pairs,
              },
              form.pairs,
            )
          }}
        </span>
      </template>
      <p v-if="form.counters" class="counters">
        {{ t("twoPeopleCountingTheSameChild", { words: form.counters }) }}
      </p>
    </dd>
  </div>
</template>

<style scoped>
div {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: var(--gap-12);
  padding: var(--gap-4) 0;
  border-bottom: var(--line-2) solid var(--rule);
}
dt {
  font-weight: 700;
}
dd,
.counters {
  margin: 0;
}
@media (max-width: 600px) {
  div {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
