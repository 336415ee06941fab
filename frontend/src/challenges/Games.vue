<script setup lang="ts">
/** Games between schools: those of this school, those open on this Lauf, and a file to join by. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/challenges";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import FileButton from "../parts/form/FileButton.vue";
import LoadState from "../parts/LoadState.vue";
import { dayWords } from "../parts/words";
import NewGames from "./NewGames.vue";

const router = useRouter();
const queries = useQueryClient();
const query = useQuery({
  queryKey: ["games"],
  queryFn: () => answer(client.GET("/api/games")),
  staleTime: 0,
});
const making = ref(false);
/** A file that was opened: what it asks is shown before anything is joined. */
const opened = ref<{ text: string; seen: Schemas["GamesSeen"] } | null>(null);

const look = useMutation({
  mutationFn: async (file: File) => {
    const text = await file.text();
    return {
      text,
      seen: await answer(client.POST("/api/games/look", { body: { text } })),
    };
  },
  onSuccess: (found) => (opened.value = found),
  onError: () => (opened.value = null),
});
const join = useMutation({
  mutationFn: (here: string | null) =>
    here
      ? answer(client.POST("/api/games/{games_id}/join", { params: { path: { games_id: here } } }))
      : answer(client.POST("/api/games/join", { body: { text: opened.value?.text ?? "" } })),
  onSuccess: async ({ id }) => {
    await queries.invalidateQueries({ queryKey: ["games"] });
    await router.push({ name: "one-games", params: { gamesId: id } });
  },
});
const days = (from: string, to: string) =>
  t("fromToTo", { from: dayWords(from), to: dayWords(to) });
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('gamesBetweenSchools')"
      ><template #trail
        ><RouterLink :to="{ name: 'challenges' }">{{ t("challenges") }}</RouterLink></template
      >
      <template v-if="query.data.value?.may_manage">
        <FileButton
          :words="t('openAGamesFile')"
          accept=".json,application/json"
          @chosen="([file]) => file && look.mutate(file)"
        />
        <v-btn color="primary" :aria-expanded="making" @click="making = !making">
          {{ t("newGames") }}
        </v-btn>
      </template>
    </PageHead>
    <p v-if="look.error.value" role="alert" class="problem">{{ look.error.value.message }}</p>
    <section v-if="opened" class="board stack" data-testid="opened">
      <h2>{{ opened.seen.name }}</h2>
      <p>
        {{
          t("organiserInvitesYouDaysResults", {
            organiser: opened.seen.organiser,
            days: days(opened.seen.starts_on, opened.seen.ends_on),
            closes: dayWords(opened.seen.closes_on),
            tests: opened.seen.tests.join(" · "),
            ages: opened.seen.bands.join(", "),
          })
        }}
      </p>
      <p>
        <i18n-t keypath="challenges.signedWithDigitsPhoneOrganiser" scope="global"
          ><template #organiser>{{ opened.seen.organiser }}</template
          ><template #digits
            ><b class="figure digits">{{ opened.seen.check_digits }}</b></template
          ></i18n-t
        >
      </p>
      <p v-if="opened.seen.over" class="problem">{{ t("theseGamesAreOver") }}</p>
      <div class="line">
        <v-btn
          v-if="opened.seen.joined"
          color="primary"
          size="large"
          :to="{ name: 'one-games', params: { gamesId: opened.seen.joined } }"
        >
          {{ t("alreadyOpen") }}
        </v-btn>
        <v-btn
          v-else
          color="primary"
          size="large"
          :disabled="opened.seen.over"
          :loading="join.isPending.value"
          @click="join.mutate(null)"
        >
          {{ t("theDigitsMatchTakePart") }}
        </v-btn>
        <v-btn variant="outlined" size="large" @click="opened = null">{{ t("cancel") }}</v-btn>
      </div>
    </section>
    <p v-if="join.error.value" role="alert" class="problem">{{ join.error.value.message }}</p>
    <NewGames v-if="making" @close="making = false" />
    <LoadState :query="query">
      <p v-if="!query.data.value?.games.length && !query.data.value?.open.length" class="board">
        {{ t("noGamesYetTheOrganisingSchool") }}
      </p>
      <ul class="games">
        <li v-for="one in query.data.value?.games" :key="one.id">
          <RouterLink class="board one" :to="{ name: 'one-games', params: { gamesId: one.id } }">
            <strong class="figure">{{ one.name }}</strong>
            <span>{{ days(one.starts_on, one.ends_on) }}</span>
            <span class="quiet">
              {{
                one.organised_here
                  ? t("organisedHere")
                  : t("byOrganiser", { organiser: one.organiser })
              }}
            </span>
            <span class="tests">{{ one.tests.join(" · ") }}</span>
          </RouterLink>
        </li>
        <li v-for="one in query.data.value?.open" :key="one.id" class="board one">
          <strong class="figure">{{ one.name }}</strong>
          <span>{{ days(one.starts_on, one.ends_on) }}</span>
          <span class="quiet">{{
            t("byOrganiserOpenToTheSchools", { organiser: one.organiser })
          }}</span>
          <v-btn
            v-if="query.data.value?.may_manage"
            variant="outlined"
            :loading="join.isPending.value"
            @click="join.mutate(one.id)"
          >
            {{ t("takePart") }}
          </v-btn>
          <span class="tests">{{ one.tests.join(" · ") }}</span>
        </li>
      </ul>
    </LoadState>
  </main>
</template>

<style scoped>
.digits {
  font-size: var(--type-24);
}
.games {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-8);
  margin-top: var(--gap-12);
}
.one {
  display: grid;
  grid-template-columns: 1fr max-content;
  gap: var(--gap-4) var(--gap-24);
  color: var(--ink);
  text-decoration: none;
}
.one strong {
  font-size: var(--type-28);
}
.tests {
  grid-column: 1 / -1;
}
@media (max-width: 560px) {
  .one {
    grid-template-columns: 1fr;
  }
}
</style>
