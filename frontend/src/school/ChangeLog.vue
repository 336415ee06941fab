<script setup lang="ts">
/** Who changed what in the school, newest first: nothing in it is ever changed. */
import { LANGUAGE } from "../messages/area";
import { t } from "../messages/school";
import { useInfiniteQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";

const PAGE = 200;
/** Only who saw or changed what not everybody may see. */
const sensitive = ref(false);
const query = useInfiniteQuery({
  queryKey: computed(() => ["log", sensitive.value]),
  initialPageParam: null as number | null,
  queryFn: ({ pageParam }) =>
    answer(
      client.GET("/api/log", {
        params: { query: { before: pageParam, sensitive: sensitive.value } },
      }),
    ),
  getNextPageParam: (page) => (page.length === PAGE ? page.at(-1)?.id : undefined),
});
const lines = computed(() => query.data.value?.pages.flat() ?? []);
const when = new Intl.DateTimeFormat(LANGUAGE, { dateStyle: "medium", timeStyle: "short" });
</script>

<template>
  <section class="board mt-4" :aria-label="t('auditLog')">
    <h2>{{ t("auditLog") }}</h2>
    <v-checkbox v-model="sensitive" :label="t('onlyWhoLookedAtOrChanged')" />
    <LoadState :query="query">
      <p v-if="!lines.length" class="quiet">
        {{ t("nothingYetChangesToPermissions") }}
      </p>
      <div v-else class="scroll" tabindex="0" role="region" :aria-label="t('logEntries')">
        <v-table>
          <thead>
            <tr>
              <th scope="col">{{ t("when") }}</th>
              <th scope="col">{{ t("person") }}</th>
              <th scope="col">{{ t("what") }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in lines" :key="line.id">
              <td class="quiet when">{{ when.format(new Date(line.at)) }}</td>
              <td>{{ line.by }}</td>
              <td>
                <span class="tag">{{ line.what }}</span> {{ line.words }}
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <v-btn
        v-if="query.hasNextPage.value"
        variant="outlined"
        class="mt-2"
        :loading="query.isFetchingNextPage.value"
        @click="query.fetchNextPage()"
      >
        {{ t("earlier") }}
      </v-btn>
    </LoadState>
  </section>
</template>

<style scoped>
.when {
  white-space: nowrap;
}
</style>
