<script setup lang="ts">
/** Recording sheets in the order of entry: a test, a battery, pulses, a week, or blank. */
import { choices } from "../parts/form/choices";
import { t } from "../messages/exchange";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import HandoutFile from "../parts/files/HandoutFile.vue";
import { useHandout } from "../parts/files/useHandout";

type Kind = Schemas["SheetKind"];
const props = defineProps<{ classId: string }>();
const route = useRoute();
const KINDS: Record<Kind, string> = {
  test: t("aTest"),
  battery: t("aBattery"),
  pulses: t("pulseCountsOfALesson"),
  week: t("aWeekOfChallenges"),
  blank: t("nothingYetBlank"),
};
const kind = ref<Kind>("test");
const of = ref(String(route.query.test ?? ""));
const earlier = ref(false);
const things = useQuery({
  queryKey: computed(() => ["sheets-of", kind.value]),
  queryFn: async (): Promise<{ id: string; name: string }[]> => {
    if (kind.value === "test") return answer(client.GET("/api/tests"));
    if (kind.value === "battery") return answer(client.GET("/api/batteries"));
    if (kind.value === "week") {
      return answer(client.GET("/api/weeks"));
    }
    return [];
  },
});
const isOfThing = computed(() => kind.value !== "pulses" && kind.value !== "blank");
watch([things.data, kind], () => {
  const found = things.data.value ?? [];
  if (!found.some((one) => one.id === of.value)) of.value = found[0]?.id ?? "";
});
const { current, problem, busy, begin } = useHandout();
const make = () =>
  begin(() =>
    answer(
      client.POST("/api/classes/{class_id}/sheets", {
        params: { path: { class_id: props.classId } },
        body: {
          kind: kind.value,
          of: isOfThing.value ? of.value : null,
          earlier: earlier.value,
        },
      }),
    ),
  );
</script>

<template>
  <section class="board">
    <h2>{{ t("recordingSheets") }}</h2>
    <p>
      {{ t("oneRowPerChildInClass") }}
    </p>
    <form class="line mt-2" @submit.prevent="make">
      <v-select v-model="kind" :label="t('aSheetFor')" :items="choices(KINDS)" />
      <v-autocomplete
        v-if="isOfThing"
        v-model="of"
        auto-select-first
        item-title="name"
        item-value="id"
        :label="t('which')"
        :items="things.data.value ?? []"
      />
      <v-checkbox v-if="isOfThing" v-model="earlier" :label="t('printEarlierBestsInGrey')" />
      <v-btn
        type="submit"
        color="primary"
        size="large"
        :disabled="isOfThing && !of"
        :loading="busy"
      >
        {{ t("makeSheet") }}
      </v-btn>
    </form>
    <p v-if="isOfThing && things.data.value?.length === 0" class="quiet">
      {{ t("thereAreNoneYet") }}
    </p>
    <HandoutFile :file="current" :problem="problem" />
  </section>
</template>
