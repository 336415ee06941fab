<script setup lang="ts">
/** What can be done with a child's whole record: a double made part of it, taken out, erased. */
import { refDebounced } from "@vueuse/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/form/ask";
import { counted, shortDay } from "../parts/words";
import { useSession } from "../account/session";

const props = defineProps<{ pupil: Schemas["PupilRow"] }>();
const emit = defineEmits<{ done: [] }>();
const queries = useQueryClient();
const session = useSession();
const at = { params: { path: { pupil_id: props.pupil.id } } };
const doubles = useQuery({
  queryKey: ["doubles", props.pupil.id],
  queryFn: () => answer(client.GET("/api/pupils/{pupil_id}/doubles", at)),
});
const words = ref("");
const asked = refDebounced(words, 200);
const hits = useQuery({
  queryKey: computed(() => ["search", asked.value]),
  queryFn: () => answer(client.GET("/api/search", { params: { query: { q: asked.value } } })),
  enabled: computed(() => asked.value.trim().length > 1),
});
const others = computed(() =>
  asked.value.trim().length > 1
    ? (hits.data.value?.pupils.filter((one) => one.id !== props.pupil.id) ?? [])
    : [],
);
const merging = useMutation({
  async mutationFn(other: Schemas["Hit"]) {
    const sure = await ask({
      title: `Is ${other.name} (${other.where}) the same child as ${props.pupil.name}?`,
      words: "Scores, pulses and points of both stand in one record. It can be taken back.",
      yes: "The same child",
    });
    if (!sure) return;
    const body = { double_id: other.id };
    await answer(client.POST("/api/pupils/{pupil_id}/doubles", { ...at, body }));
    words.value = "";
    await queries.invalidateQueries();
  },
});
const parting = useMutation({
  async mutationFn(merge_id: string) {
    await answer(client.DELETE("/api/merges/{merge_id}", { params: { path: { merge_id } } }));
    await queries.invalidateQueries();
  },
});
const erased = ref("");
const erasing = useMutation({
  async mutationFn() {
    const sure = await ask({
      title: `Erase ${props.pupil.name} for good?`,
      words:
        "Name, birth date, notes and what the school does not keep of the scores go. It cannot be taken back.",
      yes: "Erase for good",
    });
    if (!sure) return;
    const done = await answer(client.POST("/api/pupils/{pupil_id}/erase", at));
    const stay = done.stay ? "stay as numbers of nobody" : "are gone";
    const backups = done.backups_until
      ? ` In the backups until ${shortDay(done.backups_until)}.`
      : "";
    erased.value = `Erased: ${counted(done.entries, "entry", "entries")} ${stay}.${backups}`;
  },
});
async function finished() {
  await queries.invalidateQueries();
  emit("done");
}
</script>

<template>
  <section class="board record">
    <h3 class="figure">{{ pupil.name }}: the whole record</h3>
    <p v-if="erased" role="status">
      {{ erased }} <v-btn size="small" variant="outlined" @click="finished">Done</v-btn>
    </p>
    <template v-else>
      <label class="labelled">
        Is this child here twice? Find the other record
        <input v-model="words" class="field" type="search" placeholder="name or number" />
      </label>
      <ul v-if="others.length" class="plain-list">
        <li v-for="one in others" :key="one.id">
          {{ one.name }} <span class="quiet">{{ one.where }}</span>
          <v-btn size="small" variant="outlined" @click="merging.mutate(one)">
            The same child
          </v-btn>
        </li>
      </ul>
      <ul v-if="doubles.data.value?.length" class="plain-list">
        <li v-for="one in doubles.data.value" :key="one.id">
          {{ one.name }} was made part of this record on {{ shortDay(one.at) }}.
          <v-btn size="small" variant="outlined" @click="parting.mutate(one.id)"> Two again </v-btn>
        </li>
      </ul>
      <div class="line mt-2">
        <v-btn
          v-if="session.person?.may_see_growth"
          variant="outlined"
          :href="`/api/pupils/${pupil.id}/everything.zip`"
          download
        >
          Everything as a file
        </v-btn>
        <v-btn variant="outlined" :loading="erasing.isPending.value" @click="erasing.mutate()">
          Erase
        </v-btn>
        <v-btn variant="text" @click="emit('done')">Close</v-btn>
      </div>
    </template>
    <p
      v-for="one in [merging.error.value, parting.error.value, erasing.error.value].filter(Boolean)"
      :key="one?.message"
      role="alert"
      class="problem"
    >
      {{ one?.message }}
    </p>
  </section>
</template>

<style scoped>
.record {
  margin: 8px 0;
}
.plain-list {
  list-style: none;
  padding: 0;
}
.plain-list li {
  padding: 4px 0;
}
</style>
