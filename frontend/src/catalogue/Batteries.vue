<script setup lang="ts">
/** Named sets of tests, and the classes they were given to. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/catalogue";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client } from "../api/client";
import { useTests } from "./useTests";
import LoadState from "../parts/LoadState.vue";
import { shortDay } from "../parts/words";
import { useSession } from "../account/session";

const router = useRouter();
const queries = useQueryClient();
const session = useSession();
const list = useQuery({
  queryKey: ["batteries"],
  queryFn: () => answer(client.GET("/api/batteries")),
});
const sittings = useQuery({
  queryKey: ["sittings"],
  queryFn: () => answer(client.GET("/api/sittings")),
  staleTime: 0,
});
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const tests = useTests();
const making = ref(false);
const form = reactive({ name: "", test_ids: [] as string[] });
const chosen = reactive<Record<string, string>>({});
const problem = ref("");

async function make() {
  problem.value = "";
  try {
    await answer(client.POST("/api/batteries", { body: form }));
    Object.assign(form, { name: "", test_ids: [] });
    making.value = false;
    await queries.invalidateQueries({ queryKey: ["batteries"] });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function give(batteryId: string) {
  problem.value = "";
  const class_id = chosen[batteryId];
  if (!class_id) {
    problem.value = t("chooseAClassFirst");
    return;
  }
  try {
    const made = await answer(
      client.POST("/api/batteries/{battery_id}/sittings", {
        params: { path: { battery_id: batteryId } },
        body: { class_id },
      }),
    );
    await queries.invalidateQueries({ queryKey: ["sittings"] });
    await router.push({ name: "hall", params: { lessonId: made.id } });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('batteries')">
      <v-btn v-if="session.person?.role === 'head'" color="primary" @click="making = !making">
        {{ t("newBattery") }}
      </v-btn>
    </PageHead>
    <p class="quiet mb-2">
      {{ t("aBatteryIsANamedSet") }}
    </p>
    <form v-if="making" class="board stack mb-4" @submit.prevent="make">
      <v-text-field v-model="form.name" :label="t('nameForExampleAutumnTermCheck')" />
      <v-autocomplete
        v-model="form.test_ids"
        auto-select-first
        :items="tests.data.value ?? []"
        item-title="name"
        item-value="id"
        :label="t('testsInOrderGrowthFirstThe')"
        multiple
        chips
        closable-chips
      />
      <div class="line">
        <v-btn type="submit" color="primary" :disabled="!form.test_ids.length">{{
          t("saveBattery")
        }}</v-btn>
        <v-btn variant="text" @click="making = false">{{ t("cancel") }}</v-btn>
      </div>
    </form>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <LoadState :query="list">
      <p v-if="!list.data.value?.length" class="board">
        {{
          session.person?.role === "head"
            ? t("thereAreNoBatteriesYetMake")
            : t("thereAreNoBatteriesYetYour")
        }}
      </p>
      <section v-for="battery in list.data.value" :key="battery.id" class="board battery">
        <div class="head">
          <h2>{{ battery.name }}</h2>
          <form class="line" @submit.prevent="give(battery.id)">
            <v-select
              v-model="chosen[battery.id]"
              :aria-label="t('classForBattery', { battery: battery.name })"
              :placeholder="t('chooseAClass')"
              item-title="name"
              item-value="id"
              :items="classes.data.value?.classes ?? []"
            />
            <v-btn type="submit" color="primary">{{ t("startWithThisClass") }}</v-btn>
          </form>
        </div>
        <p class="tests">
          <RouterLink
            v-for="test in battery.tests"
            :key="test.id"
            class="tag"
            :to="{ name: 'test', params: { testId: test.id } }"
          >
            {{ test.name }}
          </RouterLink>
          <span v-if="battery.hidden" class="quiet">
            {{ t("andNMoreForStaffWho", battery.hidden) }}
          </span>
        </p>
        <ul class="sittings">
          <li
            v-for="one in sittings.data.value?.filter((row) => row.battery_id === battery.id)"
            :key="one.id"
          >
            <RouterLink :to="{ name: 'hall', params: { lessonId: one.id } }">
              {{ one.class_name }}, {{ shortDay(one.on) }}
            </RouterLink>
            <span class="quiet"> {{ one.closed ? t("closed") : t("open") }}</span>
          </li>
        </ul>
      </section>
    </LoadState>
  </main>
</template>

<style scoped>
.battery {
  margin-bottom: var(--gap-12);
}
.tests {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-8);
  margin: var(--gap-8) 0;
}
.tests .tag {
  padding: var(--gap-4) var(--gap-8);
  text-decoration: none;
  color: var(--ink);
}
.sittings {
  list-style: none;
  padding: 0;
  columns: 3 220px;
}
.sittings li {
  padding: var(--gap-8) 0;
}
.sittings .quiet {
  margin-inline-start: var(--gap-8);
}
</style>
