<script setup lang="ts">
/** A child's points from challenge weeks, each with its reason. Nothing is shown without any. */
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../api/client";
import { shortDay } from "../parts/words";

const props = defineProps<{ pupilId: string }>();
const page = useQuery({
  queryKey: ["pupil-points", props.pupilId],
  queryFn: () =>
    answer(
      client.GET("/api/pupils/{pupil_id}/points", {
        params: { path: { pupil_id: props.pupilId } },
      }),
    ),
  staleTime: 0, // points may have been given a moment ago
});
</script>

<template>
  <section v-if="page.data.value?.lines.length" class="points">
    <h2>
      <i18n-t keypath="progress.pointsStrong" scope="global"
        ><template #strong
          ><b class="figure">{{ page.data.value.points }}</b></template
        ></i18n-t
      >
    </h2>
    <ul class="board">
      <li v-for="(one, place) in page.data.value.lines" :key="place">
        <b class="figure">+{{ one.points }}</b>
        <span>{{ one.why }}</span>
        <RouterLink :to="{ name: 'challenge', params: { challengeId: one.challenge_id } }">
          {{ one.week }}, {{ shortDay(one.on) }}
        </RouterLink>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.points {
  display: grid;
  gap: var(--gap-12);
  margin-bottom: var(--gap-24);
}
ul {
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-4) var(--gap-12);
  align-items: baseline;
}
li a {
  display: inline-flex;
  align-items: center;
  min-height: var(--dense);
}
li b {
  font-size: var(--type-24);
}
</style>
