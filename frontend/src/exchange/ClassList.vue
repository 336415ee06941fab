<script setup lang="ts">
/** A class over its tests on paper, for its class teacher. */
import { t } from "../messages/exchange";
import { answer, client } from "../api/client";
import HandoutFile from "../parts/files/HandoutFile.vue";
import { useHandout } from "../parts/files/useHandout";

const props = defineProps<{ classId: string }>();
const { current, problem, busy, begin } = useHandout();
const make = () =>
  begin(() =>
    answer(
      client.POST("/api/classes/{class_id}/class-list", {
        params: { path: { class_id: props.classId } },
        body: {},
      }),
    ),
  );
</script>

<template>
  <section class="board">
    <h2>{{ t("listForTheClassTeacher") }}</h2>
    <p>
      {{ t("allTestsOfThisTermIn") }}
    </p>
    <v-btn class="mt-2" color="primary" size="large" :loading="busy" @click="make">
      {{ t("makeList") }}
    </v-btn>
    <HandoutFile :file="current" :problem="problem" />
  </section>
</template>
