<script setup lang="ts">
/** Games as this school has them: its sums so far and handing them in; for the organiser the table. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, wordsOf, type Schemas } from "../api/client";
import FileButton from "../parts/form/FileButton.vue";
import LoadState from "../parts/LoadState.vue";
import { saveText } from "../parts/files/saveText";
import { counted, dayWords } from "../parts/words";
import GamesFiles from "./GamesFiles.vue";
import GamesTable from "./GamesTable.vue";

type Page = Schemas["GamesPage"];
const props = defineProps<{ gamesId: string }>();
const queries = useQueryClient();
const params = { path: { games_id: props.gamesId } };
const query = useQuery({
  queryKey: ["games", props.gamesId],
  queryFn: () => answer(client.GET("/api/games/{games_id}", { params })),
  staleTime: 0,
});
const page = computed(() => query.data.value);
const show = (found: Page) => queries.setQueryData(["games", props.gamesId], found);
/** What became of what was done last, a line each. */
const said = ref<string[]>([]);

const save = useMutation({
  mutationFn: () => answer(client.GET("/api/games/{games_id}/file", { params })),
  onSuccess: ({ name, text }) => saveText(name, text),
});
const handIn = useMutation({
  mutationFn: () => answer(client.POST("/api/games/{games_id}/result", { params })),
  onSuccess: ({ name, text, delivered, page: now }) => {
    if (!delivered) saveText(name, text);
    said.value = [
      delivered ? "Handed in: it is in the table." : `Saved as ${name}: send it to the organiser.`,
    ];
    show(now);
  },
});
/** Each file by itself: one that is not taken holds up none of the others. */
const take = useMutation({
  mutationFn: async (files: File[]) => {
    const words: string[] = [];
    for (const file of files) {
      try {
        const body = { text: await file.text() };
        const taken = await answer(client.POST("/api/games/{games_id}/results", { params, body }));
        words.push(`${file.name}: ${taken.words}`);
        show(taken.page);
      } catch (error) {
        words.push(`${file.name}: ${wordsOf(error)}`);
      }
    }
    return words;
  },
  onSuccess: (words) => {
    said.value = words;
  },
});
function print() {
  window.print();
}
const problem = computed(() => save.error.value ?? handIn.error.value);
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <LoadState :query="query">
      <template v-if="page">
        <header class="line top">
          <h1>{{ page.name }}</h1>
          <span class="space" />
          <template v-if="page.may_manage && page.organised_here">
            <v-btn
              class="no-print"
              variant="outlined"
              size="large"
              :loading="save.isPending.value"
              @click="save.mutate()"
            >
              Save the games file
            </v-btn>
            <FileButton
              class="no-print"
              strong
              multiple
              :words="take.isPending.value ? 'Reading…' : 'Take results in'"
              accept=".json,application/json"
              @chosen="take.mutate($event)"
            />
            <v-btn class="no-print" variant="outlined" size="large" @click="print">Print</v-btn>
          </template>
        </header>
        <p class="when">
          {{ dayWords(page.starts_on) }} to {{ dayWords(page.ends_on) }}, results until
          {{ dayWords(page.closes_on) }} ·
          {{ page.organised_here ? "organised here" : `organised by ${page.organiser}` }}
        </p>
        <div role="status">
          <ul v-if="said.length" class="board said">
            <li v-for="words in said" :key="words">{{ words }}</li>
          </ul>
        </div>
        <p v-if="problem" role="alert" class="problem">{{ problem.message }}</p>
        <GamesTable v-if="page.organised_here" :page="page" />
        <GamesFiles
          v-if="page.organised_here"
          class="no-print"
          :page="page"
          @changed="show($event)"
        />
        <section class="board own no-print">
          <div class="line">
            <h2>This school so far</h2>
            <p>
              <b class="figure">{{ page.own.took_part || `fewer than ${page.fewest}` }}</b> of
              {{ counted(page.own.children, "child has", "children have") }} taken part,
              <b class="figure">{{ page.own.points }}</b> points
            </p>
            <span class="space" />
            <v-btn
              v-if="page.may_manage"
              color="primary"
              size="large"
              :loading="handIn.isPending.value"
              @click="handIn.mutate()"
            >
              {{ page.handed_in ? "Hand in again" : "Hand in" }}
            </v-btn>
          </div>
          <p class="quiet">
            Scores of these tests from the first to the last day count, in whichever lesson they
            were taken. This is all that is sent: groups of fewer than {{ page.fewest }} are put
            together with others.
          </p>
          <p v-if="page.handed_in && page.own_digits">
            The check digits of this school are
            <b class="figure" data-testid="own-digits">{{ page.own_digits }}</b>: the organiser asks
            for them once.
          </p>
          <section v-for="test in page.own.tests" :key="test.test_id">
            <h3>
              <RouterLink :to="{ name: 'test', params: { testId: test.test_id } }">{{
                test.name
              }}</RouterLink>
            </h3>
            <p v-if="!test.groups.length" class="quiet">
              fewer than {{ page.fewest }} children so far: nothing is told
            </p>
            <div v-else class="scroll">
              <table class="plain">
                <thead>
                  <tr>
                    <th scope="col">Ages and houses</th>
                    <th scope="col">Took part</th>
                    <th scope="col">Highest rung, from the lowest</th>
                    <th scope="col">In the middle</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="group in test.groups" :key="group.name">
                    <th scope="row">{{ group.name }}</th>
                    <td>{{ group.took_part }} of {{ group.children }}</td>
                    <td>{{ group.rungs.join(" · ") || "no ladder" }}</td>
                    <td>{{ group.middle || "–" }}</td>
                  </tr>
                </tbody>
              </table>
            </div>
          </section>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.when {
  margin-bottom: 12px;
}
.space {
  flex: 1;
}
.said {
  list-style: none;
  margin-bottom: 12px;
}
.own {
  margin-top: 12px;
}
</style>
