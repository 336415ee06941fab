<script setup lang="ts">
/** What the badge counts, one by one: entries on their way, and those that were not taken. */
import { t } from "../messages/app";
import { computed } from "vue";
import { isEntry, type Job } from "../sync/jobs";
import { useSync } from "../sync/useSync";

defineEmits<{ done: [] }>();
const sync = useSync();
const entries = computed(() =>
  sync.mine.value
    .filter((job) => isEntry(job) || job.kind === "lesson")
    .map((job) => ({ job, typed: typedOf(job), refusal: job.refusal ?? null })),
);
const refused = computed(() => entries.value.filter((one) => one.refusal));
const unsent = computed(() => entries.value.filter((one) => !one.refusal));
function typedOf(job: Job): string {
  const body = job.body as { typed?: string; withdrawn?: boolean };
  return body.withdrawn ? t("undone") : (job.shown ?? body.typed ?? "");
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
      <v-card-title id="unsent-title">{{ t("onThisDeviceOnly") }}</v-card-title>
      <v-card-text class="stack">
        <section v-if="refused.length">
          <h2>{{ t("notAcceptedN", { n: refused.length }) }}</h2>
          <p class="quiet">{{ t("theseDoNotCountAsScores") }}</p>
          <ul class="entries">
            <li v-for="{ job, typed, refusal } in refused" :key="job.id" class="line">
              <span>
                <strong>{{ job.label?.child || t("aChild") }}</strong>
                <b class="figure"> {{ typed }}</b> {{ refusal?.message }}
              </span>
              <RouterLink
                v-if="job.label?.page"
                class="tool"
                :to="job.label.page"
                @click="$emit('done')"
              >
                {{ t("dealWithIt") }}
              </RouterLink>
              <v-btn
                v-if="job.kind === 'lesson'"
                variant="outlined"
                size="small"
                @click="sync.put({ ...job, refusal: undefined })"
              >
                {{ t("sendNow") }}
              </v-btn>
              <v-btn variant="outlined" size="small" @click="sync.dismiss(job.id)">
                {{ t("discard") }}
              </v-btn>
            </li>
          </ul>
        </section>
        <section v-if="unsent.length">
          <h2>{{ t("notSentYetUnsent", { unsent: unsent.length }) }}</h2>
          <p class="quiet">{{ t("theyAreSentAutomaticallyWhenThe") }}</p>
          <ul class="entries">
            <li v-for="{ job, typed } in unsent" :key="job.id">
              <strong>{{ job.label?.child || t("aChild") }}</strong>
              <b class="figure"> {{ typed }}</b>
            </li>
          </ul>
        </section>
        <p v-if="!entries.length">{{ t("everythingHasBeenSent") }}</p>
      </v-card-text>
      <v-card-actions>
        <v-btn v-if="unsent.length" variant="outlined" @click="sync.wake">{{ t("sendNow") }}</v-btn>
        <v-spacer />
        <v-btn color="primary" @click="$emit('done')">{{ t("close") }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.entries {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-8);
}
</style>
