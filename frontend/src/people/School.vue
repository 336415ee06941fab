<script setup lang="ts">
/** The school's units, and who may see height and weight. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import ChangeLog from "./ChangeLog.vue";
import StaffTable from "./StaffTable.vue";
import { useSession } from "./session";

const queries = useQueryClient();
const session = useSession();
const page = useQuery({
  queryKey: ["school"],
  queryFn: () => answer(client.GET("/api/school")),
});
const problem = ref("");

async function set(step: Promise<Schemas["SchoolSettings"]>) {
  problem.value = "";
  try {
    queries.setQueryData(["school"], await step);
    await queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "school" });
    session.take(await answer(client.GET("/api/session")));
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
function setUnits(imperial: boolean) {
  return set(answer(client.PUT("/api/school/units", { body: { imperial } })));
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <h1>School</h1>
    <hr class="court-line" />
    <LoadState :query="page">
      <template v-if="page.data.value">
        <section class="board">
          <h2>Units shown</h2>
          <p class="quiet">
            Entries with a unit are read as typed whichever is chosen: 127cm, 41in, 4ft 2in, 69lb.
          </p>
          <div class="line mt-2" role="radiogroup" aria-label="Units shown">
            <v-btn
              size="large"
              role="radio"
              :aria-checked="!page.data.value.imperial"
              :color="page.data.value.imperial ? undefined : 'primary'"
              :variant="page.data.value.imperial ? 'outlined' : 'flat'"
              @click="setUnits(false)"
            >
              cm, m, kg
            </v-btn>
            <v-btn
              size="large"
              role="radio"
              :aria-checked="page.data.value.imperial"
              :color="page.data.value.imperial ? 'primary' : undefined"
              :variant="page.data.value.imperial ? 'flat' : 'outlined'"
              @click="setUnits(true)"
            >
              in, ft, lb
            </v-btn>
          </div>
        </section>
        <StaffTable :staff="page.data.value.staff" class="mt-4" />
      </template>
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <ChangeLog />
    </LoadState>
  </main>
</template>
