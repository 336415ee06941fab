<script setup lang="ts">
/** One test of the board: what it says of the class, whether it fits, how far it repeats itself. */
import { t } from "../messages/progress";
import type { Schemas } from "../api/client";
import Repeats from "../parts/Repeats.vue";

defineProps<{ test: Schemas["BoardTest"] }>();
defineEmits<{ done: [] }>();
</script>

<template>
  <section class="board summary" :aria-label="test.test">
    <div class="head">
      <h2>{{ test.test }}</h2>
      <div class="line">
        <RouterLink :to="{ name: 'test', params: { testId: test.test_id } }">{{
          t("test")
        }}</RouterLink>
        <v-btn variant="text" @click="$emit('done')">{{ t("close") }}</v-btn>
      </div>
    </div>
    <dl>
      <div>
        <dt>{{ t("medianNow") }}</dt>
        <dd>
          <b class="figure">{{ test.median || "–" }}</b>
          <template v-if="test.half">{{ t("halfTheClassRange", { range: test.half }) }}</template>
          <span class="quiet"> · {{ t("nChild", test.n) }}</span>
          <span v-if="test.missing" class="quiet">{{ t("nMissing", { n: test.missing }) }}</span>
        </dd>
      </div>
      <div v-if="test.median_then">
        <dt>{{ t("medianBefore") }}</dt>
        <dd>
          <b class="figure">{{ test.median_then }}</b>
          <template v-if="test.half_then">{{
            t("halfTheClassRange", { range: test.half_then })
          }}</template>
        </dd>
      </div>
      <div v-if="test.compared">
        <dt>{{ t("edit") }}</dt>
        <dd>
          <i18n-t keypath="progress.betterBetterSteadySteadyLower" scope="global"
            ><template #better>{{ test.better }}</template
            ><template #steady>{{ test.steady }}</template
            ><template #lower>{{ test.lower }}</template
            ><template #mean>{{ test.mean_change }}</template
            ><template #chance
              ><span class="quiet">{{
                t("aboutNOfAllChangesCould", { n: test.chance, all: test.compared }, test.chance)
              }}</span></template
            ></i18n-t
          >
        </dd>
      </div>
      <div>
        <dt>{{ t("doesItFit") }}</dt>
        <dd>
          {{ test.misfit || t("yesFewerThan15AreAt") }}
          <strong v-if="test.try_instead">· {{ test.try_instead }}</strong>
          <span class="quiet">
            {{
              t("atTheMaximumTopAtZero", { top: test.at_top || "0%", floor: test.at_floor || "0%" })
            }}
          </span>
        </dd>
      </div>
      <Repeats :test-id="test.test_id" />
    </dl>
  </section>
</template>

<style scoped>
.summary {
  margin-bottom: var(--gap-8);
}
dl div {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: var(--gap-12);
  padding: var(--gap-4) 0;
  border-bottom: var(--line-2) solid var(--rule);
}
dt {
  font-weight: 700;
}
dd {
  margin: 0;
}
.figure {
  font-size: var(--type-24);
}
@media (max-width: 600px) {
  dl div {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
