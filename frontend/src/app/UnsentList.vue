<script setup lang="ts">
/** What the badge counts, one by one: entries on their way, and those that were not taken. */
import { computed } from "vue";
import type { Job } from "../sync/device";
import { useSync } from "../sync/useSync";

defineEmits<{ done: [] }>();
const sync = useSync();
const entries = computed(() =>
  sync.mine.value
    .filter((job) => job.kind === "attempt" || job.kind === "pulse")
    .map((job) => ({ job, typed: typedOf(job), refusal: job.refusal ?? null })),
);
const refused = computed(() => entries.value.filter((one) => one.refusal));
const unsent = computed(() => entries.value.filter((one) => !one.refusal));
function typedOf(job: Job): string {
  const body = job.body as { typed?: string; withdrawn?: boolean };
  return body.withdrawn ? "taken back" : (job.shown ?? body.typed ?? "");
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="640"
    scrollable
    aria-labelledby="unsent-title"
    @update:model-value="$emit('done')"
  >
    <v-card>
      <v-card-title id="unsent-title">On this device only</v-card-title>
      <v-card-text class="stack">
        <section v-if="refused.length">
          <h2>Not taken: {{ refused.length }}</h2>
          <p class="quiet">They are not scores until you settle them.</p>
          <ul class="entries">
            <li v-for="{ job, typed, refusal } in refused" :key="job.id" class="line">
              <span>
                <strong>{{ job.label?.child || "A child" }}</strong>
                <b class="figure"> {{ typed }}</b> {{ refusal?.message }}
              </span>
              <RouterLink
                v-if="job.label?.page"
                class="tool"
                :to="job.label.page"
                @click="$emit('done')"
              >
                Settle it
              </RouterLink>
              <button type="button" class="tool" @click="sync.dismiss(job.id)">Let it go</button>
            </li>
          </ul>
        </section>
        <section v-if="unsent.length">
          <h2>Not sent yet: {{ unsent.length }}</h2>
          <p class="quiet">They go out by themselves when the network is back.</p>
          <ul class="entries">
            <li v-for="{ job, typed } in unsent" :key="job.id">
              <strong>{{ job.label?.child || "A child" }}</strong>
              <b class="figure"> {{ typed }}</b>
            </li>
          </ul>
        </section>
        <p v-if="!entries.length">Everything is sent.</p>
      </v-card-text>
      <v-card-actions>
        <v-btn v-if="unsent.length" variant="outlined" @click="sync.wake">Send now</v-btn>
        <v-spacer />
        <v-btn color="primary" @click="$emit('done')">Close</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.entries {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
}
</style>
