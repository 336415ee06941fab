<script setup lang="ts">
/** What can be done with a child's whole record: a double made part of it, taken out, erased. */
import { t } from "../messages/people";
import { refDebounced } from "@vueuse/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/form/ask";
import { shortDay } from "../parts/words";
import { useSession } from "../account/session";

const props = defineProps<{ pupil: Schemas["PupilRow"] }>();
const emit = defineEmits<{ done: [] }>();
const queries = useQueryClient();
const session = useSession();
const at = { params: { path: { pupil_id: props.pupil.id } } };
const doubles = useQuery({
  queryKey: ["doubles", props.pupil.id],
  queryFn: () => answer(client.GET("/api/pupils/{pupil_id}/doubles", at)),
});
const words = ref("");
const asked = refDebounced(words, 200);
const hits = useQuery({
  queryKey: computed(() => ["search", asked.value]),
  queryFn: () => answer(client.GET("/api/search", { params: { query: { q: asked.value } } })),
  enabled: computed(() => asked.value.trim().length > 1),
});
const others = computed(() =>
  asked.value.trim().length > 1
    ? (hits.data.value?.pupils.filter((one) => one.id !== props.pupil.id) ?? [])
    : [],
);
const merging = useMutation({
  async mutationFn(other: Schemas["Hit"]) {
    const sure = await ask({
      title: t("isOtherWhereTheSameChild", {
        other: other.name,
        where: other.where,
        child: props.pupil.name,
      }),
      words: t("scoresPulseCountsAndPointsOf"),
      yes: t("sameChild"),
    });
    if (!sure) return;
    const body = { double_id: other.id };
    await answer(client.POST("/api/pupils/{pupil_id}/doubles", { ...at, body }));
    words.value = "";
    await queries.invalidateQueries();
  },
});
const parting = useMutation({
  async mutationFn(merge_id: string) {
    await answer(client.DELETE("/api/merges/{merge_id}", { params: { path: { merge_id } } }));
    await queries.invalidateQueries();
  },
});
const erased = ref("");
const erasing = useMutation({
  async mutationFn() {
    const sure = await ask({
      title: t("eraseChildForGood", { child: props.pupil.name }),
      words: t("thisDeletesTheNameBirthDate"),
      yes: t("eraseForGood"),
    });
    if (!sure) return;
    const done = await answer(client.POST("/api/pupils/{pupil_id}/erase", at));
    const backups = done.backups_until
      ? t("backupsKeepACopyUntilDay", { day: shortDay(done.backups_until) })
      : "";
    erased.value = done.stay
      ? t("nEntryErasedScoresStayAs", { n: done.entries, backups }, done.entries)
      : t("nEntryErasedBackups", { n: done.entries, backups }, done.entries);
  },
});
async function finished() {
  await queries.invalidateQueries();
  emit("done");
}
</script>

<template>
  <section class="board record">
    <h3 class="figure">{{ t("childFullRecord", { child: pupil.name }) }}</h3>
    <p v-if="erased" role="status">
      {{ erased }} <v-btn size="small" variant="outlined" @click="finished">{{ t("done") }}</v-btn>
    </p>
    <template v-else>
      <v-text-field
        v-model="words"
        type="search"
        :placeholder="t('nameOrNumber')"
        :label="t('isThisChildHereTwiceFind')"
      />
      <ul v-if="others.length" class="plain-list">
        <li v-for="one in others" :key="one.id">
          {{ one.name }} <span class="quiet">{{ one.where }}</span>
          <v-btn size="small" variant="outlined" @click="merging.mutate(one)">
            {{ t("sameChild") }}
          </v-btn>
        </li>
      </ul>
      <ul v-if="doubles.data.value?.length" class="plain-list">
        <li v-for="one in doubles.data.value" :key="one.id">
          {{ t("otherWasMergedIntoThisRecord", { other: one.name, day: shortDay(one.at) }) }}
          <v-btn size="small" variant="outlined" @click="parting.mutate(one.id)">
            {{ t("separateAgain") }}
          </v-btn>
        </li>
      </ul>
      <div class="line mt-2">
        <v-btn
          v-if="session.person?.may_see_growth"
          variant="outlined"
          :href="`/api/pupils/${pupil.id}/everything.zip`"
          download
        >
          {{ t("downloadEverything") }}
        </v-btn>
        <v-btn variant="outlined" :loading="erasing.isPending.value" @click="erasing.mutate()">
          {{ t("erase") }}
        </v-btn>
        <v-btn variant="text" @click="emit('done')">{{ t("close") }}</v-btn>
      </div>
    </template>
    <p
      v-for="one in [merging.error.value, parting.error.value, erasing.error.value].filter(Boolean)"
      :key="one?.message"
      role="alert"
      class="problem"
    >
      {{ one?.message }}
    </p>
  </section>
</template>

<style scoped>
.record {
  margin: var(--gap-8) 0;
}
.plain-list {
  list-style: none;
  padding: 0;
}
.plain-list li {
  padding: var(--gap-4) 0;
}
</style>
