<script setup lang="ts">
/** A warm-up game: a board of movements with slides and climbs, a die, counters, ten minutes. */
import PageHead from "../parts/PageHead.vue";
import Fold from "../parts/Fold.vue";
import { choices } from "../parts/form/choices";
import { t } from "../messages/challenges";
import { useQuery } from "@tanstack/vue-query";
import { useEventListener, useIntervalFn, useSessionStorage } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { clockShown } from "../parts/time/clockShown";
import LoadState from "../parts/LoadState.vue";
import { now } from "../parts/time/timeSource";

type Load = Schemas["Load"];
const LARGEST = 9999;
/** Counters are told apart by a letter and a shape, not by a colour alone. */
const TEAMS = ["A ●", "B ■", "C ▲", "D ◆", "E ★", "F ✚"];
const LOADS: Load[] = [
  "whole body",
  "legs",
  "push",
  "pull",
  "core",
  "flexibility",
  "balance",
  "skill",
  "aerobic",
];
/** From Reception to the last year. */
const AGES = [4, 5, 6, 7, 8, 9, 10, 11];
const SPACES: Record<Schemas["Space"], string> = {
  spot: t("onTheSpot"),
  floor: t("someFloorSpace"),
  hall: t("roomToRun"),
};
const route = useRoute();
const router = useRouter();
const wish = computed(() => ({
  number: Number(route.query.number) || 0,
  age: Number(route.query.age) || 8,
  space: (String(route.query.space ?? "floor") in SPACES
    ? String(route.query.space ?? "floor")
    : "floor") as Schemas["Space"],
  spare: [route.query.spare ?? []]
    .flat()
    .map(String)
    .filter((one) => LOADS.includes(one as Load)) as Load[],
}));
function change(more: Record<string, unknown>) {
  void router.replace({ query: { ...wish.value, ...more } });
}
function another() {
  change({ number: 1 + Math.floor(Math.random() * LARGEST) });
}
if (!wish.value.number) another();
const page = useQuery({
  queryKey: computed(() => ["warm-up", wish.value]),
  queryFn: () => answer(client.GET("/api/warm-up", { params: { query: wish.value } })),
  enabled: computed(() => wish.value.number > 0),
});
const board = page.data;
/** Rows as they lie: the last one on top, walked to and fro. */
const rows = computed(() => {
  const found: Schemas["GameSquare"][][] = [];
  const squares = board.value?.squares ?? [];
  const across = board.value?.across ?? 8;
  for (let from = 0; from < squares.length; from += across) {
    const row = squares.slice(from, from + across);
    found.unshift((from / across) % 2 ? row.reverse() : row);
  }
  return found;
});

/** What is played: kept in this tab, so that a reload loses nothing. */
const game = useSessionStorage("lauf.warm-up", {
  number: 0,
  teams: 4,
  turn: 0,
  places: [1, 1, 1, 1, 1, 1],
  die: 0,
  endsAt: 0,
});
watch(
  () => board.value?.number,
  (number) => {
    if (number && game.value.number !== number) restart();
  },
);
function restart() {
  Object.assign(game.value, {
    number: board.value?.number ?? 0,
    turn: 0,
    places: [1, 1, 1, 1, 1, 1],
    die: 0,
    endsAt: 0,
  });
  announcement.value = "";
}
const announcement = ref("");
const at = ref(now());
useIntervalFn(() => (at.value = now()), 250);
const left = computed(() =>
  game.value.endsAt ? Math.max(0, Math.ceil((game.value.endsAt - at.value) / 1000)) : null,
);
const over = computed(() => left.value === 0);
/** Whose turn it is, however many counters there are by now. */
const turn = computed(() => game.value.turn % game.value.teams);
const team = computed(() => TEAMS[turn.value] ?? "");
function move() {
  const squares = board.value?.squares ?? [];
  if (!squares.length || over.value) return;
  if (!game.value.endsAt) game.value.endsAt = now() + (board.value?.minutes ?? 10) * 60_000;
  const mine = turn.value;
  const die = 1 + Math.floor(Math.random() * 6);
  const from = game.value.places[mine] ?? 1;
  // Who is there begins anew: all play until the time is up.
  const reached = Math.min(squares.length, (from === squares.length ? 1 : from) + die);
  const square = squares[reached - 1];
  const landed = squares[(square?.to ?? 0) - 1];
  if (!square || !landed) return;
  game.value.places[mine] = square.to;
  game.value.die = die;
  game.value.turn = (mine + 1) % game.value.teams;
  const way = square.to > reached ? t("upAClimb") : square.to < reached ? t("downASlide") : "";
  announcement.value = t("teamThrowDieSquareSquareWay", {
    team: TEAMS[mine],
    die,
    square: square.to,
    way,
    words: landed.words,
  });
}
useEventListener("keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.key !== " " || target.closest("button, input, select, a, summary")) return;
  event.preventDefault();
  move();
});
const standing = (place: number) =>
  TEAMS.slice(0, game.value.teams).filter((_, n) => game.value.places[n] === place);
const print = () => window.print();
</script>

<template>
  <main id="main" tabindex="-1" class="page game">
    <PageHead :title="t('warmUpGame')"
      ><template #trail
        ><RouterLink :to="{ name: 'challenges' }">{{ t("challenges") }}</RouterLink></template
      >
      <v-btn variant="outlined" @click="print">{{ t("print") }}</v-btn>
      <v-btn variant="outlined" @click="another">{{ t("anotherBoard") }}</v-btn>
    </PageHead>
    <div class="line no-print choices">
      <v-text-field
        class="number"
        type="number"
        min="1"
        :max="LARGEST"
        :model-value="wish.number"
        :label="t('boardNumber')"
        @change="change({ number: Number(($event.target as HTMLInputElement).value) || 1 })"
      />
      <v-select
        :model-value="wish.age"
        :label="t('age')"
        :items="AGES"
        @update:model-value="change({ age: $event })"
      />
      <v-select
        :model-value="wish.space"
        :label="t('space')"
        :items="choices(SPACES)"
        @update:model-value="change({ space: $event })"
      />
      <v-select v-model="game.teams" :label="t('counters')" :items="[1, 2, 3, 4, 5, 6]" />
      <Fold class="spare">
        <template #title>
          {{ t("keptFreshForTheTestParts", { parts: wish.spare.join(", ") || t("nothing") }) }}
        </template>
        <div class="line">
          <v-checkbox
            v-for="one in LOADS"
            :key="one"
            :model-value="wish.spare.includes(one)"
            :label="one"
            @update:model-value="
              change({
                spare: wish.spare.includes(one)
                  ? wish.spare.filter((each) => each !== one)
                  : [...wish.spare, one],
              })
            "
          />
        </div>
      </Fold>
    </div>
    <LoadState :query="page">
      <template v-if="board">
        <div class="line no-print play">
          <v-btn color="primary" size="x-large" :disabled="over" @click="move">
            {{ over ? t("timeIsUp") : t("throwForTeam", { team }) }}
          </v-btn>
          <b class="figure die" aria-hidden="true">{{ game.die || "–" }}</b>
          <b class="figure clock" data-testid="game-left">{{
            clockShown(left ?? board.minutes * 60)
          }}</b>
          <v-btn variant="text" @click="restart">{{ t("startAgain") }}</v-btn>
          <p role="status" class="announcement">{{ announcement }}</p>
        </div>
        <div class="board scroll" tabindex="0" role="region" :aria-label="t('theBoard')">
          <table class="squares">
            <tbody>
              <tr v-for="(row, n) in rows" :key="n">
                <td
                  v-for="square in row"
                  :key="square.place"
                  :class="{ up: square.to > square.place, down: square.to < square.place }"
                >
                  <span class="place figure">{{ square.place }}</span>
                  <template v-if="square.to !== square.place">
                    {{ square.to > square.place ? t("climbTo") : t("slideTo") }}
                    <b class="figure">{{ square.to }}</b>
                  </template>
                  <template v-else>{{ square.words }}</template>
                  <b class="counters">{{ standing(square.place).join(" ") }}</b>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <p class="quiet">
          {{
            t("boardNumberAgeAgeSpaceThe", {
              number: board.number,
              age: board.age,
              space: SPACES[board.space],
              throws: board.throws,
            })
          }}
        </p>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.game {
  padding-top: var(--gap-8);
}
.number {
  width: 110px;
}
.choices {
  margin: var(--gap-4) 0;
}
/* Four in a row, and what is kept fresh under them. */
.choices > .v-input {
  flex: 1 1 140px;
}
.spare {
  flex-basis: 100%;
}
.play {
  margin-bottom: var(--gap-12);
}
.die,
.clock {
  font-size: var(--type-40);
  min-width: 44px;
}
.announcement {
  font-size: var(--type-18);
  font-weight: 700;
}
.squares {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  min-width: 900px;
}
.squares td {
  border: var(--line-2) solid var(--line);
  height: 84px;
  padding: var(--gap-4) var(--gap-8);
  vertical-align: top;
  line-height: 1.15;
  font-size: var(--type-14);
  overflow-wrap: anywhere;
}
.place {
  float: right;
  margin: 0 0 var(--gap-4) var(--gap-8);
  font-size: var(--type-18);
  color: var(--chalk);
}
.up {
  border-top-width: var(--bar) !important;
}
.down {
  border-bottom: var(--bar) dotted var(--line) !important;
}
.counters {
  display: block;
  font-size: var(--type-16);
}
/* A page on the wall: the whole board, as wide as it is, with its caption. */
@page warm-up {
  size: A4 landscape;
}
@media print {
  .game {
    page: warm-up;
    max-width: none;
    padding: 0;
    break-inside: avoid;
  }
  .board {
    border: 0;
    padding: 0;
    overflow: visible;
  }
  .squares {
    min-width: 0;
  }
  .squares td {
    height: 28mm;
    padding: var(--gap-4);
    font-size: var(--type-16);
  }
}
</style>
