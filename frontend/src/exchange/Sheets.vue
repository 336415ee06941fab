<script setup lang="ts">
/** Recording sheets in the order of entry: a test, a battery, pulses, a week, or blank. */
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
  test: "a test",
  battery: "a battery",
  pulses: "pulses of a lesson",
  week: "a week of challenges",
  blank: "nothing yet: blank",
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
    <h2>Recording sheets</h2>
    <p>
      A row a child in the order its scores are typed in, boxes big enough for a cold hand, what
      counts in the head.
    </p>
    <form class="line mt-2" @submit.prevent="make">
      <label class="labelled">
        A sheet for
        <select v-model="kind" class="field">
          <option v-for="(words, one) in KINDS" :key="one" :value="one">{{ words }}</option>
        </select>
      </label>
      <label v-if="isOfThing" class="labelled">
        Which
        <select v-model="of" class="field">
          <option v-for="one in things.data.value" :key="one.id" :value="one.id">
            {{ one.name }}
          </option>
        </select>
      </label>
      <label v-if="isOfThing" class="line">
        <input v-model="earlier" type="checkbox" class="tick" /> print earlier bests lightly
      </label>
      <v-btn
        type="submit"
        color="primary"
        size="large"
        :disabled="isOfThing && !of"
        :loading="busy"
      >
        Make the sheet
      </v-btn>
    </form>
    <p v-if="isOfThing && things.data.value?.length === 0" class="quiet">There is none yet.</p>
    <HandoutFile :file="current" :problem="problem" />
  </section>
</template>

<style scoped>
.tick {
  width: 24px;
  height: 24px;
}
</style>
