<script setup lang="ts">
/** Whoever performs against the class, as one more at the end of the list. */
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../../api/client";
import { useTypedFields } from "../../parts/useTypedFields";

const props = defineProps<{ activityId: string }>();
const query = useQuery({
  queryKey: ["rivals", props.activityId],
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/rivals", {
        params: { path: { activity_id: props.activityId } },
      }),
    ),
});
const { typed, wrong, type, keep } = useTypedFields(async (challenge_id, entry) => {
  const one = query.data.value?.find((each) => each.challenge_id === challenge_id);
  if (!one) return;
  const { name, variant, course } = one.rival;
  const mark = { challenge_id, typed: entry, variant, course: course?.replace(" ", "") ?? "" };
  await answer(
    client.PUT("/api/weeks/{week_id}/rival", {
      params: { path: { week_id: one.week_id } },
      body: { kind: "person", name, best: false, marks: [mark] },
    }),
  );
  await query.refetch();
});
</script>

<template>
  <ul v-if="query.data.value?.length" class="rivals" aria-label="Rivals">
    <li v-for="one in query.data.value" :key="one.challenge_id" class="line">
      <label class="line">
        <strong>{{ one.rival.name }}</strong>
        <span class="quiet">performs too</span>
        <input
          :value="typed[one.challenge_id] ?? one.rival.typed"
          class="field figure"
          autocomplete="off"
          :aria-label="`Mark of ${one.rival.name}`"
          :aria-invalid="Boolean(wrong[one.challenge_id])"
          @input="type(one.challenge_id, $event)"
          @keydown.enter.prevent="keep(one.challenge_id)"
          @change="keep(one.challenge_id)"
          @keydown.stop
        />
      </label>
      <span v-if="wrong[one.challenge_id]" role="alert" class="problem">
        {{ wrong[one.challenge_id] }}
      </span>
      <span v-else-if="typed[one.challenge_id] === undefined" class="quiet">
        {{ one.rival.made ? `${one.rival.shown} to beat` : "still to be made" }}
        {{ one.rival.variant_name }}
      </span>
      <span v-else class="quiet">Enter keeps it</span>
    </li>
  </ul>
</template>

<style scoped>
.rivals {
  list-style: none;
  padding: 8px 0;
  border-bottom: 3px solid var(--line);
}
.field {
  width: 110px;
}
</style>
