<script setup lang="ts">
import { mdiClose } from "@mdi/js";
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/lessons";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, nextTick, reactive, ref, useTemplateRef } from "vue";
import { useRoute, useRouter } from "vue-router";
import { v5 as uuid5 } from "uuid";
import { answer, ApiError, client, type Schemas } from "../api/client";
import { useTests } from "../catalogue/useTests";
import { useOwnId } from "../parts/form/useOwnId";
import { localInput, shortDay } from "../parts/words";
import { beginHere, sparesHere } from "./spares";

const route = useRoute();
const router = useRouter();
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const tests = useTests();

/** What the address says of the lesson: of the timetable, or of what is due again. */
function asked(name: string): string | undefined {
  const found = route.query[name];
  return typeof found === "string" ? found : undefined;
}
/** The next full five minutes. */
function soon(): Date {
  return new Date(Math.ceil(Date.now() / 300_000) * 300_000);
}
const form = reactive({
  class_id: asked("class") ?? null,
  test_ids: [route.query.test ?? []].flat().filter((one) => one !== null),
  starts_at: localInput(asked("at") ? new Date(asked("at") ?? "") : soon()),
  minutes: Number(asked("minutes") ?? 45),
  place: asked("place") ?? t("hall"),
  pulses: false,
});
// A lesson of the timetable is that one, whatever is chosen for it; moved, it is another.
const id = useOwnId(form, {
  known: asked("id"),
  stays: () => Boolean(asked("id")) && form.class_id === asked("class"),
});
const suggested = useQuery({
  queryKey: ["suggested", form.starts_at],
  queryFn: () =>
    answer(
      client.GET("/api/lessons/suggested", {
        params: { query: { at: new Date(form.starts_at).toISOString() } },
      }),
    ),
});
/** The tests that are chosen, in their order, and those that can be. */
const chosen = computed(() =>
  form.test_ids.flatMap((id) => tests.data.value?.find((one) => one.id === id) ?? []),
);
const others = computed(
  () => tests.data.value?.filter((one) => !form.test_ids.includes(one.id)) ?? [],
);
const page = useTemplateRef<HTMLFormElement>("page");
const search = ref("");
async function add(id: string | null) {
  if (id) form.test_ids.push(id);
  await nextTick();
  search.value = "";
}
/** What is missing, at the field it is missing from. */
const missing = reactive({ class_id: "", test_ids: "", starts_at: "" });
function take(one: Schemas["Suggestion"]) {
  const { class_id, place, minutes, tests: test_ids } = one;
  Object.assign(form, { class_id, place, minutes, test_ids });
}
const queries = useQueryClient();
/** The ids its scores are taken under, should there be no network. */
const activityIds = computed(() => {
  const own = id.value;
  return form.test_ids.map((test) => uuid5(test, own));
});
const making = useMutation({
  // Without a network it may be begun on this device.
  networkMode: "always",
  async mutationFn(to: "hall" | "plan") {
    const { class_id, starts_at } = form;
    const body = {
      ...form,
      id: id.value,
      activity_ids: activityIds.value,
      class_id: class_id ?? "",
      // eslint-disable-next-line @typescript-eslint/no-unnecessary-type-conversion -- an emptied field is text
      minutes: Number(form.minutes),
      starts_at: new Date(starts_at).toISOString(),
    };
    try {
      return await answer(client.POST("/api/lessons", { body }));
    } catch (error) {
      if (!(error instanceof ApiError) || error.status !== 0) throw error;
      if (to === "hall" && !form.pulses && (await beginHere(queries, body))) return body;
      throw new Error(await whatCanBeBegun(body.class_id), { cause: error });
    }
  },
});
async function whatCanBeBegun(classId: string): Promise<string> {
  const rows = await sparesHere();
  const name = classes.data.value?.classes.find((one) => one.id === classId)?.name ?? "";
  const names = rows.filter((one) => one.class_id === classId).map((one) => one.test);
  return names.length
    ? t("withoutANetworkOneTest", { class: name, tests: names.join(", ") })
    : t("withoutANetworkNotThisClass", { class: name });
}
async function make(to: "hall" | "plan") {
  // What is planned first, or is only of pulses, needs no test yet.
  const isBare = to === "hall" && !form.pulses && !form.test_ids.length;
  missing.class_id = form.class_id ? "" : t("chooseAClass");
  missing.test_ids = isBare ? t("chooseATestOrAPulseCount") : "";
  missing.starts_at = form.starts_at ? "" : t("enterTheStart");
  if (Object.values(missing).some(Boolean)) {
    await nextTick();
    page.value?.querySelector<HTMLElement>(".v-input--error input")?.focus();
    return;
  }
  const made = await making.mutateAsync(to).catch(() => null);
  if (made) await router.push({ name: to, params: { lessonId: made.id } });
}
</script>

<template>
  <main id="main" tabindex="-1" class="page narrow">
    <PageHead :title="t('newLesson')" />
    <section v-if="suggested.data.value?.length" class="suggested">
      <h2>{{ t("sameAsLastWeekAtThis") }}</h2>
      <v-btn
        v-for="one in suggested.data.value"
        :key="one.class_id"
        variant="outlined"
        size="small"
        @click="take(one)"
      >
        <b>{{ one.class_name }}</b> · {{ one.place }} · {{ one.test_names.join(", ") }}
        <span class="quiet">{{ t("asOnDay", { day: shortDay(one.on) }) }}</span>
      </v-btn>
    </section>
    <form ref="page" class="board grid" @submit.prevent="make('hall')">
      <v-autocomplete
        v-model="form.class_id"
        :items="classes.data.value?.classes ?? []"
        item-title="name"
        item-value="id"
        :label="t('class')"
        :error-messages="missing.class_id"
        auto-select-first
      />
      <v-autocomplete
        v-model:search="search"
        :model-value="null"
        auto-select-first
        :items="others"
        item-title="name"
        item-value="id"
        :label="t('testsInOrder')"
        :error-messages="missing.test_ids"
        @update:model-value="add"
      />
      <ol v-if="chosen.length" class="chosen">
        <li v-for="(test, place) in chosen" :key="test.id">
          {{ test.name }}
          <v-btn
            :icon="mdiClose"
            variant="text"
            :aria-label="t('leaveOutTest', { test: test.name })"
            @click="form.test_ids.splice(place, 1)"
          />
        </li>
      </ol>
      <v-text-field
        v-model="form.starts_at"
        type="datetime-local"
        :label="t('starts')"
        :error-messages="missing.starts_at"
      />
      <v-text-field v-model="form.minutes" type="number" :label="t('minutes')" />
      <v-text-field v-model="form.place" :label="t('place')" />
      <v-checkbox v-model="form.pulses" :label="t('withAPulseCountAtRest')" />
      <p v-if="making.error.value" role="alert" class="problem">
        {{ making.error.value.message }}
      </p>
      <div class="line">
        <v-btn type="submit" color="primary" size="large" :loading="making.isPending.value">
          {{ t("openLesson") }}
        </v-btn>
        <v-btn variant="outlined" size="large" @click="make('plan')">{{ t("planFirst") }}</v-btn>
      </div>
    </form>
  </main>
</template>

<style scoped>
.grid {
  display: grid;
  gap: var(--gap-16);
}
.chosen {
  padding-left: var(--gap-24);
  font-weight: 700;
}
.suggested {
  display: grid;
  gap: var(--gap-8);
  margin-bottom: var(--gap-16);
}
</style>
