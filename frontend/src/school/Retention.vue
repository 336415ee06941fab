<script setup lang="ts">
/** How long leavers are kept, who is due to go, the backups, and the whole school as a file. */
import { t } from "../messages/school";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/form/ask";
import { clockTime, shortDay } from "../parts/words";
import SettingFoot from "../parts/form/SettingFoot.vue";
import { useSetting } from "./useSchool";
import { useSession } from "../account/session";

const props = defineProps<{ school: Schemas["SchoolSettings"] }>();
const queries = useQueryClient();
const session = useSession();
const form = reactive<{ keep_years: number | string | null; scores_outlive: boolean }>({
  keep_years: props.school.keep_years,
  scores_outlive: props.school.scores_outlive,
});
const keeping = useSetting((body: typeof form) => {
  const years = body.keep_years === "" || body.keep_years === null ? null : Number(body.keep_years);
  return answer(
    client.PUT("/api/school/keeping", {
      body: { keep_years: years, scores_outlive: body.scores_outlive },
    }),
  );
});
const due = useQuery({
  queryKey: ["leavers-due"],
  queryFn: () => answer(client.GET("/api/school/leavers-due")),
});
const backups = useQuery({
  queryKey: ["backups"],
  queryFn: () => answer(client.GET("/api/school/backups")),
});
const server = useQuery({
  queryKey: ["server"],
  queryFn: () => answer(client.GET("/api/school/server")),
});
const gone = ref("");
const erasing = useMutation({
  async mutationFn() {
    const rows = due.data.value ?? [];
    const sure = await ask({
      title: t("eraseNLeaverForGood", rows.length),
      words: t("namesYouCannotUndoThis", { names: rows.map((one) => one.name).join(", ") }),
      yes: t("eraseForGood"),
    });
    if (!sure) return;
    const body = { pupil_ids: rows.map((one) => one.id) };
    const { number } = await answer(client.POST("/api/school/leavers-due", { body }));
    gone.value = t("nChildErased", number);
    await queries.invalidateQueries();
  },
});
const size = (bytes: number) =>
  bytes < 1e6
    ? t("bytesKb", { bytes: Math.ceil(bytes / 1000) })
    : t("e6Mb", { e6: (bytes / 1e6).toFixed(1) });
</script>

<template>
  <section class="board mt-4">
    <h2>{{ t("whatIsKeptAndForHow") }}</h2>
    <form class="fields mt-2" @submit.prevent="keeping.mutate(form)">
      <v-text-field
        v-model="form.keep_years"
        class="day"
        type="number"
        min="0"
        max="30"
        :label="t('yearsToKeepALeaversRecord')"
        :hint="t('yearsAfterLeavingEmptyNotDecided')"
        persistent-hint
      />
      <v-checkbox v-model="form.scores_outlive" :label="t('keepAnErasedChildsScoresAs')" />
      <SettingFoot
        :error="keeping.error.value"
        :pending="keeping.isPending.value"
        :kept="keeping.isSuccess.value"
      />
    </form>
    <template v-if="due.data.value?.length">
      <h3 class="mt-4">{{ t("readyToErase") }}</h3>
      <ul class="rows">
        <li v-for="one in due.data.value" :key="one.id">
          {{ one.name }}
          <span class="quiet">{{
            t("leftLeftfromLefton", { leftFrom: one.left_from, leftOn: shortDay(one.left_on) })
          }}</span>
        </li>
      </ul>
      <v-btn
        variant="outlined"
        class="mt-2"
        :loading="erasing.isPending.value"
        @click="erasing.mutate()"
      >
        {{ t("erase") }}
      </v-btn>
    </template>
    <p v-if="gone" role="status">{{ gone }}</p>
    <p v-if="erasing.error.value" role="alert" class="problem">{{ erasing.error.value.message }}</p>
    <p class="quiet mt-2">
      {{ t("eraseASingleChildOnTheir") }}
    </p>
  </section>
  <section class="board mt-4">
    <h2>{{ t("thisServer") }}</h2>
    <dl v-if="server.data.value" class="facts" data-testid="server">
      <template v-for="one in server.data.value.lines" :key="one.about">
        <dt class="quiet">{{ one.about }}</dt>
        <dd :class="{ problem: one.wrong }">{{ one.words }}</dd>
      </template>
    </dl>
    <h3 class="mt-4">{{ t("backups") }}</h3>
    <ul v-if="backups.data.value?.files.length" class="rows">
      <li v-for="one in backups.data.value.files.slice(0, 5)" :key="one.name">
        {{ shortDay(one.at) }}, {{ clockTime(one.at) }}
        <span class="quiet">
          {{ t("sizeGoneByDay", { size: size(one.bytes), day: shortDay(one.until) }) }}
        </span>
      </li>
    </ul>
    <p class="quiet">
      {{ t("laufMakesABackupEveryNight") }}
    </p>
  </section>
  <section class="board mt-4">
    <h2>{{ t("theWholeSchoolAsAFile") }}</h2>
    <p>
      {{ t("everyTableAsCsvWithA") }}
    </p>
    <v-btn
      v-if="session.person?.may_see_growth"
      variant="outlined"
      class="mt-2"
      href="/api/school/package.zip"
      download
    >
      {{ t("downloadSchool") }}
    </v-btn>
    <p v-else class="quiet">
      {{ t("toIncludeHeightAndWeightFirst") }}
    </p>
  </section>
</template>

<style scoped src="../parts/form/settings.css"></style>
<style scoped>
.facts {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: var(--gap-4) var(--gap-16);
}
</style>
