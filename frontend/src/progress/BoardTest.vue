<script setup lang="ts">
/** One test of the board: what it says of the class, whether it fits, how far it repeats itself. */
import type { Schemas } from "../api/client";
import Repeats from "../parts/Repeats.vue";
import { counted } from "../parts/words";

defineProps<{ test: Schemas["BoardTest"] }>();
defineEmits<{ done: [] }>();
</script>

<template>
  <section class="board summary" :aria-label="test.test">
    <div class="head">
      <h2>{{ test.test }}</h2>
      <div class="line">
        <RouterLink :to="{ name: 'test', params: { testId: test.test_id } }">The test</RouterLink>
        <v-btn variant="text" @click="$emit('done')">Close</v-btn>
      </div>
    </div>
    <dl>
      <div>
        <dt>Middle now</dt>
        <dd>
          <b class="figure">{{ test.median || "–" }}</b>
          <template v-if="test.half">, half of the class {{ test.half }}</template>
          <span class="quiet"> · {{ counted(test.n, "child", "children") }}</span>
          <span v-if="test.missing" class="quiet">, {{ test.missing }} missing</span>
        </dd>
      </div>
      <div v-if="test.median_then">
        <dt>Middle then</dt>
        <dd>
          <b class="figure">{{ test.median_then }}</b>
          <template v-if="test.half_then">, half of the class {{ test.half_then }}</template>
        </dd>
      </div>
      <div v-if="test.compared">
        <dt>Change</dt>
        <dd>
          ▲ {{ test.better }} better · = {{ test.steady }} steady · ▽ {{ test.lower }} lower;
          {{ test.mean_change }}
          <span class="quiet"
            >· about {{ counted(test.chance, "arrow") }} of {{ test.compared }} by chance
            alone</span
          >
        </dd>
      </div>
      <div>
        <dt>Does it fit?</dt>
        <dd>
          {{ test.misfit || "yes: fewer than 15 % are at an end of it" }}
          <strong v-if="test.try_instead">· {{ test.try_instead }}</strong>
          <span class="quiet">
            · at its end {{ test.at_top || "0%" }}, at nought {{ test.at_floor || "0%" }} (Terwee et
            al. 2007)
          </span>
        </dd>
      </div>
      <Repeats :test-id="test.test_id" />
    </dl>
  </section>
</template>

<style scoped>
.summary {
  margin-bottom: 10px;
}
dl div {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: 12px;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
dt {
  font-weight: 700;
}
dd {
  margin: 0;
}
.figure {
  font-size: 1.3rem;
}
@media (max-width: 600px) {
  dl div {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
