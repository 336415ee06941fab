<script setup lang="ts">
/** What a child sees of itself: own lanes and next aims, and nobody else's. */
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client } from "../api/client";
import Lane from "../parts/Lane.vue";
import LoadState from "../parts/LoadState.vue";

const props = defineProps<{ pupilId?: string }>();
const typed = ref("");
const code = ref("");
const page = useQuery({
  queryKey: computed(() => ["own", props.pupilId ?? "", code.value]),
  queryFn: () =>
    props.pupilId
      ? answer(
          client.GET("/api/pupils/{pupil_id}/own", {
            params: { path: { pupil_id: props.pupilId } },
          }),
        )
      : answer(client.GET("/api/own/{code}", { params: { path: { code: code.value } } })),
  enabled: computed(() => Boolean(props.pupilId ?? code.value)),
  retry: false,
});
const own = page.data;
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <form v-if="!pupilId && !own" class="board narrow" @submit.prevent="code = typed.trim()">
      <h1>My page</h1>
      <label class="labelled mt-4">
        The code your teacher gave you
        <input
          v-model="typed"
          class="field"
          autocomplete="off"
          autocapitalize="characters"
          maxlength="40"
          autofocus
        />
      </label>
      <p v-if="page.error.value" role="alert" class="problem">
        This code opens nothing (any more). Ask your teacher for a new one.
      </p>
      <v-btn type="submit" color="primary" class="mt-4" :disabled="!typed.trim()">Open</v-btn>
    </form>
    <LoadState v-if="pupilId || own" :query="page">
      <template v-if="own">
        <h1>{{ own.name }}</h1>
        <hr class="court-line" />
        <p v-if="!own.lanes.length" class="board">No scores yet.</p>
        <section v-for="one in own.lanes" :key="`${one.test} ${one.variant}`" class="board test">
          <div class="head">
            <h2>{{ one.test }}</h2>
            <p>
              now <b class="figure">{{ one.shown }}</b>
              <template v-if="one.best"
                >, my best <b class="figure">{{ one.best }}</b></template
              >
            </p>
          </div>
          <Lane :lane="one.lane" named :label="`${one.test}: ${one.shown}`" />
          <p v-if="one.target">
            My next aim: <b class="figure">{{ one.target }}</b>
          </p>
          <p v-else>I have reached the end of this test: time for a harder form.</p>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.test {
  margin-bottom: 12px;
}
.figure {
  font-size: 1.7rem;
}
</style>
