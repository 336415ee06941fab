<script setup lang="ts">
/** Games as this school has them: its sums so far and handing them in; for the organiser the table. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/challenges";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, wordsOf, type Schemas } from "../api/client";
import FileButton from "../parts/form/FileButton.vue";
import LoadState from "../parts/LoadState.vue";
import { saveText } from "../parts/files/saveText";
import { dayWords } from "../parts/words";
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
const messages = ref<string[]>([]);

const save = useMutation({
  mutationFn: () => answer(client.GET("/api/games/{games_id}/file", { params })),
  onSuccess: ({ name, text }) => saveText(name, text),
});
const handIn = useMutation({
  mutationFn: () => answer(client.POST("/api/games/{games_id}/result", { params })),
  onSuccess: ({ name, text, delivered, page: now }) => {
    if (!delivered) saveText(name, text);
    messages.value = [
      delivered ? t("resultsSentTheyAreInThe") : t("savedAsFileSendItTo", { file: name }),
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
    messages.value = words;
  },
});
function print() {
  window.print();
}
const problem = computed(() => save.error.value ?? handIn.error.value);
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="page?.name ?? t('gamesBetweenSchools')"
      ><template #trail
        ><RouterLink :to="{ name: 'games' }">{{ t("gamesBetweenSchools") }}</RouterLink></template
      >
      <template v-if="page?.may_manage && page.organised_here">
        <v-btn variant="outlined" @click="print">{{ t("print") }}</v-btn>
        <v-btn variant="outlined" :loading="save.isPending.value" @click="save.mutate()">
          {{ t("saveGamesFile") }}
        </v-btn>
        <FileButton
          strong
          multiple
          :words="take.isPending.value ? t('reading') : t('openResults')"
          accept=".json,application/json"
          @chosen="take.mutate($event)"
        />
      </template>
    </PageHead>
    <LoadState :query="query">
      <template v-if="page">
        <p class="when">
          {{
            t("firstToLastResultsByCloses", {
              first: dayWords(page.starts_on),
              last: dayWords(page.ends_on),
              closes: dayWords(page.closes_on),
              who: page.organised_here
                ? t("organisedHere")
                : t("organisedByOrganiser", { organiser: page.organiser }),
            })
          }}
        </p>
        <div role="status">
          <ul v-if="messages.length" class="board messages">
            <li v-for="words in messages" :key="words">{{ words }}</li>
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
            <h2>{{ t("thisSchoolSoFar") }}</h2>
            <p>
              <i18n-t
                keypath="challenges.tookOfNChildTakenPart"
                scope="global"
                :plural="page.own.children"
                ><template #n>{{ page.own.children }}</template
                ><template #took
                  ><b class="figure">{{
                    page.own.took_part || t("fewerThanN", { n: page.fewest })
                  }}</b></template
                ><template #points
                  ><b class="figure">{{ page.own.points }}</b></template
                ></i18n-t
              >
            </p>
            <span class="space" />
            <v-btn
              v-if="page.may_manage"
              color="primary"
              size="large"
              :loading="handIn.isPending.value"
              @click="handIn.mutate()"
            >
              {{ page.handed_in ? t("sendResultsAgain") : t("sendResults") }}
            </v-btn>
          </div>
          <p class="quiet">
            {{ t("allScoresInTheseTestsFrom", { n: page.fewest }) }}
          </p>
          <p v-if="page.handed_in && page.own_digits">
            <i18n-t keypath="challenges.thisSchoolsCheckDigitsAreDigits" scope="global"
              ><template #digits
                ><b class="figure" data-testid="own-digits">{{ page.own_digits }}</b></template
              ></i18n-t
            >
          </p>
          <section v-for="test in page.own.tests" :key="test.test_id">
            <h3>
              <RouterLink :to="{ name: 'test', params: { testId: test.test_id } }">{{
                test.name
              }}</RouterLink>
            </h3>
            <p v-if="!test.groups.length" class="quiet">
              {{ t("fewerThanNChildrenSoFar", { n: page.fewest }) }}
            </p>
            <div v-else class="scroll">
              <v-table>
                <thead>
                  <tr>
                    <th scope="col">{{ t("agesAndHouses") }}</th>
                    <th scope="col">{{ t("tookPart") }}</th>
                    <th scope="col">{{ t("highestRungReachedLowestFirst") }}</th>
                    <th scope="col">{{ t("median") }}</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="group in test.groups" :key="group.name">
                    <th scope="row">{{ group.name }}</th>
                    <td>
                      {{
                        t("tookpartOfChildren", {
                          tookPart: group.took_part,
                          children: group.children,
                        })
                      }}
                    </td>
                    <td>{{ group.rungs.join(" · ") || t("noLadder") }}</td>
                    <td>{{ group.middle || "–" }}</td>
                  </tr>
                </tbody>
              </v-table>
            </div>
          </section>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.when {
  margin-bottom: var(--gap-12);
}
.space {
  flex: 1;
}
.messages {
  list-style: none;
  margin-bottom: var(--gap-12);
}
.own {
  margin-top: var(--gap-12);
}
</style>
