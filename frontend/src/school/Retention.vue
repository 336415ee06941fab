<script setup lang="ts">
/** How long leavers are kept, who is due to go, the backups, and the whole school as a file. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/form/ask";
import { clockTime, counted, shortDay } from "../parts/words";
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
const gone = ref("");
const erasing = useMutation({
  async mutationFn() {
    const rows = due.data.value ?? [];
    const sure = await ask({
      title: `Erase ${counted(rows.length, "leaver")} for good?`,
      words: `${rows.map((one) => one.name).join(", ")}. It cannot be taken back.`,
      yes: "Erase for good",
    });
    if (!sure) return;
    const body = { pupil_ids: rows.map((one) => one.id) };
    const { number } = await answer(client.POST("/api/school/leavers-due", { body }));
    gone.value = `${counted(number, "child was", "children were")} erased.`;
    await queries.invalidateQueries();
  },
});
const size = (bytes: number) =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
</script>

<template>
  <section class="board mt-4">
    <h2>What is kept, and how long</h2>
    <form class="fields mt-2" @submit.prevent="keeping.mutate(form)">
      <label class="line">
        A leaver's record is kept
        <input
          v-model="form.keep_years"
          class="field day"
          type="number"
          min="0"
          max="30"
          aria-label="Years a leaver's record is kept"
        />
        years after leaving (empty: nobody has said).
      </label>
      <label class="tick">
        <input v-model="form.scores_outlive" type="checkbox" />
        scores of an erased child stay, as numbers of nobody, for the school's own sums
      </label>
      <SettingFoot
        :error="keeping.error.value"
        :pending="keeping.isPending.value"
        :kept="keeping.isSuccess.value"
      />
    </form>
    <template v-if="due.data.value?.length">
      <h3 class="mt-4">Kept long enough</h3>
      <ul class="rows">
        <li v-for="one in due.data.value" :key="one.id">
          {{ one.name }}
          <span class="quiet">left {{ one.left_from }} {{ shortDay(one.left_on) }}</span>
        </li>
      </ul>
      <v-btn
        variant="outlined"
        class="mt-2"
        :loading="erasing.isPending.value"
        @click="erasing.mutate()"
      >
        Erase them
      </v-btn>
    </template>
    <p v-if="gone" role="status">{{ gone }}</p>
    <p v-if="erasing.error.value" role="alert" class="problem">{{ erasing.error.value.message }}</p>
    <p class="quiet mt-2">
      One child is erased from its page in the class. The school's own rules and the law of your
      country say how long what is kept.
    </p>
  </section>
  <section class="board mt-4">
    <h2>Backups</h2>
    <p v-if="backups.data.value?.warning" class="problem">
      {{ backups.data.value.warning }}
    </p>
    <ul v-if="backups.data.value?.files.length" class="rows">
      <li v-for="one in backups.data.value.files.slice(0, 5)" :key="one.name">
        {{ shortDay(one.at) }}, {{ clockTime(one.at) }}
        <span class="quiet">
          {{ size(one.bytes) }} · what is in it is gone by {{ shortDay(one.until) }}
        </span>
      </li>
    </ul>
    <p class="quiet">
      One is made each night by itself. <code>./lauf backup FILE</code> makes one now,
      <code>./lauf restore FILE</code> puts one back. Keep a copy on another machine too.
    </p>
  </section>
  <section class="board mt-4">
    <h2>The whole school as a file</h2>
    <p>
      Every table as CSV with its description (Frictionless data package): for another program, or
      for another Lauf that is still empty.
    </p>
    <v-btn
      v-if="session.person?.may_see_growth"
      variant="outlined"
      class="mt-2"
      href="/api/school/package.zip"
      download
    >
      Save the school
    </v-btn>
    <p v-else class="quiet">
      Height and weight are in it: tick “may see height and weight” for yourself first.
    </p>
  </section>
</template>

<style scoped src="../parts/form/settings.css"></style>
