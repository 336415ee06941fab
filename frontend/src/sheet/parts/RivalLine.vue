<script setup lang="ts">
/** Whoever performs against the class, as one more at the end of the list. */
import { useMutation, useQuery } from "@tanstack/vue-query";
import { reactive } from "vue";
import { answer, client, wordsOf, type Schemas } from "../../api/client";

type One = Schemas["PerformingRival"];
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
const typed = reactive<Record<string, string>>({});
const wrong = reactive<Record<string, string>>({});
const keeping = useMutation({
  mutationFn: ({ week_id, challenge_id, rival }: One) =>
    answer(
      client.PUT("/api/weeks/{week_id}/rival", {
        params: { path: { week_id } },
        body: {
          kind: "person",
          name: rival.name,
          best: false,
          marks: [
            {
              challenge_id,
              typed: typed[challenge_id] ?? "",
              variant: rival.variant,
              course: rival.course?.replace(" ", "") ?? "",
            },
          ],
        },
      }),
    ),
});
async function keep(one: One) {
  if (typed[one.challenge_id] === undefined) return;
  try {
    await keeping.mutateAsync(one);
    delete typed[one.challenge_id];
    delete wrong[one.challenge_id];
    await query.refetch();
  } catch (error) {
    wrong[one.challenge_id] = wordsOf(error);
  }
}
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
          @input="typed[one.challenge_id] = ($event.target as HTMLInputElement).value"
          @keydown.enter.prevent="keep(one)"
          @change="keep(one)"
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
