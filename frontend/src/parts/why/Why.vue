<script setup lang="ts">
/** Why a score stands where it does: its lane and its own working, asked for when it is opened. */
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../../api/client";
import Lane from "../Lane.vue";
import LoadState from "../LoadState.vue";
import { shortDay } from "../words";

const props = defineProps<{
  attemptId: string;
  /** On the wall nobody is named. */
  nameless?: boolean;
}>();
const page = useQuery({
  queryKey: ["why", props.attemptId],
  queryFn: () =>
    answer(
      client.GET("/api/attempts/{attempt_id}/why", {
        params: { path: { attempt_id: props.attemptId } },
      }),
    ),
});
const why = page.data;
</script>

<template>
  <div class="why" data-testid="why">
    <LoadState :query="page">
      <template v-if="why">
        <p>
          <strong v-if="!nameless">{{ why.name }}</strong> {{ why.test }}, {{ shortDay(why.on) }}:
          <b class="figure">{{ why.shown }}</b>
        </p>
        <Lane v-if="why.lane" :lane="why.lane" named :label="`${why.test}: ${why.shown}`" />
        <dl>
          <div v-for="step in why.steps" :key="step.what">
            <dt>{{ step.what }}</dt>
            <dd>
              {{ step.words }}
              <span
                v-if="step.source && !(nameless && step.what === 'Entry as typed')"
                class="quiet"
                >— {{ step.source }}</span
              >
            </dd>
          </div>
        </dl>
      </template>
    </LoadState>
  </div>
</template>

<style scoped>
.why {
  max-width: 860px;
  text-align: left;
  white-space: normal;
}
.figure {
  font-size: var(--type-24);
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
  overflow-wrap: anywhere;
}
@media (max-width: 600px) {
  dl div {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
