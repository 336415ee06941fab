<script setup lang="ts">
/** The lesson opened to helpers: the square and the code to show, and who came. */
import { t } from "../../messages/lessons";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { answer, client, wordsOf } from "../../api/client";
import { ask } from "../../parts/form/ask";
import LoadState from "../../parts/LoadState.vue";
import { clockTime } from "../../parts/words";
import { unlessTold } from "../../sync/live";

const props = defineProps<{ lessonId: string }>();
defineEmits<{ done: [] }>();
const queries = useQueryClient();
const params = { path: { lesson_id: props.lessonId } };
const key = ["helpers", props.lessonId];
const query = useQuery({
  queryKey: key,
  queryFn: () => answer(client.GET("/api/lessons/{lesson_id}/helpers", { params })),
  staleTime: 0,
  refetchInterval: () => unlessTold(10_000),
});
const page = query.data;
const change = useMutation({
  mutationFn: (how: "open" | "close" | { end: string }) => {
    if (how === "open") return answer(client.POST("/api/lessons/{lesson_id}/helpers", { params }));
    if (how === "close")
      return answer(client.DELETE("/api/lessons/{lesson_id}/helpers", { params }));
    const path = { ...params.path, helper_id: how.end };
    return answer(
      client.DELETE("/api/lessons/{lesson_id}/helpers/{helper_id}", { params: { path } }),
    );
  },
  onSuccess: (now) => queries.setQueryData(key, now),
});
async function close() {
  const yes = await ask({
    title: t("endHelping"),
    words: t("helpersCanSaveNothingMore"),
    yes: t("endHelping"),
  });
  if (yes) change.mutate("close");
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="720"
    scrollable
    aria-labelledby="helpers-title"
    @update:model-value="$emit('done')"
  >
    <v-card>
      <v-card-title id="helpers-title">{{ t("helpers") }}</v-card-title>
      <v-card-text>
        <LoadState :query="query">
          <template v-if="page">
            <div v-if="page.code" class="code">
              <img :src="page.qr" :alt="t('squareForHelpers')" width="240" height="240" />
              <div>
                <p>{{ t("pointAPhoneAtTheSquare") }}</p>
                <p class="big figure" data-testid="code">{{ page.code }}</p>
                <p class="quiet">
                  {{ t("orOpenHelpAndType", { address: page.address.split("#")[0] ?? "" }) }}
                </p>
                <p v-if="page.until" class="quiet">
                  {{ t("openUntil", { time: clockTime(page.until) }) }}
                </p>
              </div>
            </div>
            <p v-else>{{ t("helpersEnterScoresWithoutAnAccount") }}</p>
            <ul class="who">
              <li v-for="one in page.helpers" :key="one.id" class="line">
                <b>{{ one.name }}</b>
                <span class="figure">{{ t("nScoreEntered", one.entries) }}</span>
                <span v-if="one.last_at" class="quiet">{{
                  t("lastAt", { time: clockTime(one.last_at) })
                }}</span>
                <span class="space" />
                <span v-if="one.ended" class="quiet">{{ t("hasStopped") }}</span>
                <v-btn
                  v-else
                  variant="outlined"
                  size="small"
                  @click="change.mutate({ end: one.id })"
                  >{{ t("endHelper", { name: one.name }) }}</v-btn
                >
              </li>
            </ul>
            <p v-if="change.error.value" role="alert" class="problem">
              {{ wordsOf(change.error.value) }}
            </p>
          </template>
        </LoadState>
      </v-card-text>
      <v-card-actions>
        <v-btn v-if="page?.code" variant="outlined" @click="close">{{ t("endHelping") }}</v-btn>
        <v-btn
          v-else-if="page"
          color="primary"
          :loading="change.isPending.value"
          @click="change.mutate('open')"
          >{{ t("openToHelpers") }}</v-btn
        >
        <v-spacer />
        <v-btn @click="$emit('done')">{{ t("close") }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.code {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-24);
}
.code > div {
  flex: 1;
  min-width: 260px;
}
.big {
  font-size: var(--type-64);
  letter-spacing: 0.08em;
}
.who {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-8);
  margin-top: var(--gap-16);
}
.space {
  flex: 1;
}
</style>
