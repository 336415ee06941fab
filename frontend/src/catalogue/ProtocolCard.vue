<script setup lang="ts">
/** One test: how to show it, what counts, what it needs, and how it may be scored. */
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client } from "../api/client";
import Repeats from "../parts/Repeats.vue";
import LoadState from "../parts/LoadState.vue";
import { MERGES } from "../api/vocabulary";
import { EFFORT, kindWords } from "./words";

const props = defineProps<{ testId: string }>();
const children = ref(28);
const page = useQuery({
  queryKey: ["test", props.testId, children],
  queryFn: () =>
    answer(
      client.GET("/api/tests/{test_id}", {
        params: { path: { test_id: props.testId }, query: { children: children.value } },
      }),
    ),
  placeholderData: (old) => old,
});
const card = page.data;
const how = computed(() => card.value?.protocol);
const tries = computed(() => {
  const one = how.value;
  if (!one) return "";
  if (one.tries < 2) return "one try";
  return `${one.tries} tries, ${MERGES.find((merge) => merge.code === one.merge)?.words} counts`;
});
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <LoadState :query="page">
      <template v-if="card && how">
        <div class="head">
          <div>
            <p class="quiet">
              <RouterLink :to="{ name: 'catalogue' }">Catalogue</RouterLink> ·
              {{ card.family_words }}
            </p>
            <h1>{{ card.name }}</h1>
          </div>
          <div class="line no-print">
            <v-btn color="primary" :to="{ name: 'new-lesson', query: { test: card.id } }">
              Plan a lesson with it
            </v-btn>
            <v-btn variant="outlined" :to="{ name: 'benchmarks', params: { testId: card.id } }">
              Benchmarks
            </v-btn>
            <template v-if="card.may_edit">
              <v-btn variant="outlined" :to="{ name: 'edit-test', params: { testId: card.id } }">
                Edit
              </v-btn>
              <v-btn variant="outlined" :to="{ name: 'copy-test', params: { testId: card.id } }">
                Copy
              </v-btn>
            </template>
          </div>
        </div>
        <hr class="court-line" />
        <div class="card">
          <section class="board show">
            <h2>Show and say</h2>
            <ol>
              <li v-for="line in how.say" :key="line">{{ line }}</li>
            </ol>
            <div class="counts">
              <div>
                <h3 class="figure">Counts</h3>
                <ul>
                  <li v-for="line in how.counts" :key="line">{{ line }}</li>
                </ul>
              </div>
              <div>
                <h3 class="figure">Does not count</h3>
                <ul>
                  <li v-for="line in how.does_not_count" :key="line">{{ line }}</li>
                </ul>
              </div>
            </div>
            <dl>
              <dt>It ends</dt>
              <dd>{{ how.ends || "with the score" }}</dd>
              <dt v-if="how.easier">Easier</dt>
              <dd v-if="how.easier">{{ how.easier }}</dd>
              <dt v-if="how.harder">Harder</dt>
              <dd v-if="how.harder">{{ how.harder }}</dd>
              <dt v-if="how.variants?.length">Variants</dt>
              <dd v-if="how.variants?.length">
                {{ how.variants.map((one) => one.name).join(" · ") }}, from the easiest; scores are
                compared within one.
              </dd>
            </dl>
          </section>
          <aside class="stack">
            <section class="board care">
              <h2>Take care</h2>
              <ul>
                <li v-for="line in how.cautions" :key="line">{{ line }}</li>
              </ul>
              <p class="quiet">The school's policy and local rules come first.</p>
            </section>
            <section class="board">
              <h2>For a class of</h2>
              <label class="line">
                <input
                  v-model.number="children"
                  class="field figure size"
                  type="number"
                  min="1"
                  max="60"
                  aria-label="Children"
                />
                children: about <b class="figure big">{{ card.minutes }}</b> minutes
              </label>
              <dl>
                <dt>Kit</dt>
                <dd>
                  <template v-if="!card.kit_for_class.length">none</template>
                  <span v-for="item in card.kit_for_class" :key="item.item" class="item">
                    <b>{{ item.number }}</b> × {{ item.item }}
                  </span>
                </dd>
                <dt>Space</dt>
                <dd>{{ how.space }}; {{ how.places?.join(", ") }}</dd>
                <dt>Time</dt>
                <dd>
                  {{ how.setup_seconds }} s to set up, {{ how.trial_seconds }} s a go,
                  {{ how.changeover_seconds }} s to change over
                </dd>
                <dt>At once</dt>
                <dd>
                  <template v-if="how.at_once">{{ how.at_once }} at each set of kit</template>
                  <template v-else-if="how.waves === 1">everyone</template>
                  <template v-else>everyone, in {{ how.waves }} waves</template>
                  <template v-if="how.helpers">; helpers: {{ how.helpers }}</template>
                </dd>
                <dt>Suits</dt>
                <dd>
                  ages {{ how.from_age }}–{{ how.to_age }}; {{ EFFORT[how.effort ?? ""] }};
                  {{ how.loads?.join(", ") }}
                </dd>
              </dl>
            </section>
            <section class="board">
              <h2>Score</h2>
              <p>
                {{ kindWords(how.kind ?? "", how.seconds ?? null) }};
                {{ how.better === "up" ? "more is better" : "less is better" }}; {{ tries
                }}<template v-if="card.cap_shown"
                  >; {{ card.cap_shown }} is the most there is</template
                >. Counted by {{ how.counted_by || "the teacher" }}.
              </p>
              <p class="quiet">{{ card.accepted }}</p>
            </section>
            <section class="board">
              <h2>Versions</h2>
              <p v-for="one in card.versions" :key="one.number">
                <b class="figure">{{ one.number }}</b>
                {{ one.changed || (one.number === 1 ? "as it began" : "") }}
              </p>
              <p class="quiet">
                {{
                  card.used
                    ? "Used: an edit makes the next version, and scores keep theirs."
                    : "Not used yet."
                }}
              </p>
            </section>
          </aside>
        </div>
        <section v-if="!card.private" class="board mt-4">
          <h2>In this school</h2>
          <dl><Repeats :test-id="card.id" /></dl>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: 7fr 5fr;
  gap: 16px;
  align-items: start;
}
.show ol {
  font-size: 1.25rem;
  padding-left: 26px;
  margin: 8px 0 14px;
}
.show li {
  margin-bottom: 4px;
}
.counts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 20px;
  border-top: 3px solid var(--line);
  padding-top: 10px;
}
.counts h3 {
  font-size: 1.3rem;
}
.counts ul,
.care ul {
  padding-left: 20px;
}
.care {
  border-left: 6px solid var(--pennant);
}
dl {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 4px 12px;
  margin-top: 12px;
}
dt {
  font-weight: 700;
}
.item {
  margin-right: 14px;
}
.size {
  width: 84px;
  font-size: 1.4rem;
}
.big {
  font-size: 1.7rem;
}
@media (max-width: 860px) {
  .card,
  .counts {
    grid-template-columns: 1fr;
  }
}
</style>
