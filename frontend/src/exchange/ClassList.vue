<script setup lang="ts">
/** A class over its tests on paper, for its class teacher. */
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
    <h2>List for the class teacher</h2>
    <p>
      The class over all tests of this term in the order of the list, with the rung and the change
      of each score and what each test says of the class. It names children: for colleagues, not for
      the wall.
    </p>
    <v-btn class="mt-2" color="primary" size="large" :loading="busy" @click="make">
      Make the list
    </v-btn>
    <HandoutFile :file="current" :problem="problem" />
  </section>
</template>
