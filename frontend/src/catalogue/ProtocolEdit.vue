<script setup lang="ts">
/** A test from scratch, from a copy, or the next version of one. */
import { t } from "../messages/catalogue";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { watchDebounced } from "@vueuse/core";
import { computed, reactive, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { answer, client, wordsOf, type Schemas } from "../api/client";
import DraftNote from "../parts/form/DraftNote.vue";
import LoadState from "../parts/LoadState.vue";
import { useDraft } from "../parts/form/useDraft";
import { EFFORTS, KINDS, LOADS, MERGES, PLACES } from "../api/vocabulary";
import KitRows from "./KitRows.vue";
import ProtocolLimits from "./ProtocolLimits.vue";
import VariantRows from "./VariantRows.vue";
import { useProtocol } from "./useProtocol";

const props = defineProps<{ testId?: string; copy?: boolean }>();
const router = useRouter();
const queries = useQueryClient();
const catalogue = useQuery({
  queryKey: ["catalogue"],
  queryFn: () => answer(client.GET("/api/catalogue")),
});
const page = useQuery({
  queryKey: ["test", props.testId],
  enabled: props.testId !== undefined,
  queryFn: () =>
    answer(
      client.GET("/api/tests/{test_id}", { params: { path: { test_id: props.testId ?? "" } } }),
    ),
});
const editing = computed(() => props.testId !== undefined && !props.copy);

const typed = useProtocol(props.testId === undefined);
const { name, family, why, form, lines, conditions, variants, kit, units, asked, kindChosen } =
  typed;
/** What the form was filled in from; what others make of the test meanwhile is not overwritten. */
const from = ref<{ id: string; version: number } | null>(null);
/** Why it was not kept: that stays until it is tried again, whatever a look at it says meanwhile. */
const problem = ref("");
/** What cannot be read of what stands there now. */
const unread = ref("");
const busy = ref(false);
const effects = ref<Schemas["Effects"] | null>(null);
watch(
  () => page.data.value,
  (card) => {
    if (!card || from.value) return;
    typed.fill(card, props.copy ? t("nameOurWay", { name: card.name }) : card.name);
    from.value = { id: card.id, version: card.version };
  },
  { immediate: true },
);
const draft = useDraft(reactive({ name, family, why, form, lines, conditions }), () => {
  if (props.testId === undefined) return "test";
  return from.value && ["test", from.value.id, from.value.version, props.copy].join(".");
});
let looks = 0;
watchDebounced(
  asked,
  async (protocol) => {
    if (!from.value || !name.value) return;
    const { id, version } = from.value;
    const look = ++looks;
    const looking = answer(
      client.POST("/api/tests/{test_id}/effects", {
        params: { path: { test_id: id } },
        body: { based_on: version, why: "", protocol },
      }),
    );
    const [found, odd] = await looking.then(
      (said) => [said, ""] as const,
      (error: unknown) => [null, wordsOf(error)] as const,
    );
    if (look !== looks) return; // another look was taken meanwhile
    effects.value = found;
    unread.value = odd;
  },
  { debounce: 350, deep: true, immediate: true },
);

async function save() {
  busy.value = true;
  problem.value = "";
  try {
    let id = props.testId ?? "";
    if (editing.value) {
      const body = {
        based_on: from.value?.version ?? 1,
        why: why.value,
        protocol: asked.value,
      };
      const path = { test_id: id };
      await answer(client.POST("/api/tests/{test_id}/versions", { params: { path }, body }));
    } else {
      const copy_of = props.testId ?? null;
      const body = { name: name.value, family: family.value, copy_of, protocol: asked.value };
      id = (await answer(client.POST("/api/tests", { body }))).id;
    }
    draft.forget();
    await queries.invalidateQueries({ queryKey: ["catalogue"] });
    await queries.invalidateQueries({ queryKey: ["test"] });
    await router.push({ name: "test", params: { testId: id } });
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <h1>{{ editing ? t("editName", { name }) : copy ? t("copyATest") : t("newTest") }}</h1>
    <hr class="court-line" />
    <LoadState v-if="testId" :query="page"><span /></LoadState>
    <form v-if="!testId || page.data.value" class="stack" @submit.prevent="save">
      <DraftNote :draft="draft" />
      <fieldset class="board">
        <legend class="figure">{{ t("whatItIs") }}</legend>
        <div class="fields">
          <label class="labelled wide">
            {{ t("name") }}
            <input v-model="name" class="field" required :disabled="editing" maxlength="80" />
          </label>
          <label class="labelled">
            {{ t("family") }}
            <select v-model="family" class="field" :disabled="editing">
              <option
                v-for="one in catalogue.data.value?.families"
                :key="one.code"
                :value="one.code"
              >
                {{ one.words }}
              </option>
            </select>
          </label>
          <label class="labelled">
            {{ t("kindOfScore") }}
            <select v-model="form.kind" class="field" @change="kindChosen">
              <option v-for="one in KINDS" :key="one.code" :value="one.code">
                {{ one.words }}
              </option>
            </select>
          </label>
          <label class="labelled">
            {{ t("betterIs") }}
            <select v-model="form.better" class="field">
              <option value="up">{{ t("more") }}</option>
              <option value="down">{{ t("less") }}</option>
            </select>
          </label>
          <label class="labelled">
            {{ t("unit") }}
            <select v-model="form.unit" class="field">
              <option v-for="unit in units" :key="unit" :value="unit">{{ unit }}</option>
            </select>
          </label>
          <label class="labelled">
            {{ t("clockSeconds") }}
            <input
              v-model="form.seconds"
              class="field"
              type="number"
              min="1"
              :placeholder="t('none')"
            />
          </label>
          <label class="labelled">
            {{ t("waves") }}
            <input v-model.number="form.waves" class="field" type="number" min="1" max="8" />
          </label>
          <label class="labelled">
            {{ t("tries") }}
            <input v-model.number="form.tries" class="field" type="number" min="1" max="10" />
          </label>
          <label v-if="(form.tries ?? 1) > 1" class="labelled">
            {{ t("whatCounts") }}
            <select v-model="form.merge" class="field">
              <option v-for="one in MERGES" :key="one.code" :value="one.code">
                {{ one.words }}
              </option>
            </select>
          </label>
          <label v-if="form.kind === 'hits'" class="labelled">
            {{ t("outOf") }}
            <input v-model="form.of" class="field" type="number" min="1" />
          </label>
          <label v-if="form.kind === 'stage'" class="labelled">
            {{ t("schedule") }}
            <select v-model="form.schedule" class="field">
              <option value="even">{{ t("n85KmHThen0") }}</option>
              <option value="jump">{{ t("n8090Then0") }}</option>
            </select>
          </label>
        </div>
      </fieldset>
      <fieldset class="board">
        <legend class="figure">{{ t("showAndSay") }}</legend>
        <div class="two-columns">
          <label class="labelled">
            {{ t("whatToSayOneSentencePer") }}
            <textarea v-model="lines.say" class="field" rows="4" />
          </label>
          <label class="labelled">
            {{ t("cautionsOnePerLine") }}
            <textarea v-model="lines.cautions" class="field" rows="4" />
          </label>
          <label class="labelled">
            {{ t("whatCounts") }}
            <textarea v-model="lines.counts" class="field" rows="3" />
          </label>
          <label class="labelled">
            {{ t("whatDoesNotCount") }}
            <textarea v-model="lines.does_not_count" class="field" rows="3" />
          </label>
        </div>
        <div class="fields mt-2">
          <label class="labelled wide"
            >{{ t("itEnds") }} <input v-model="form.ends" class="field"
          /></label>
          <label class="labelled wide"
            >{{ t("easier") }} <input v-model="form.easier" class="field"
          /></label>
          <label class="labelled wide"
            >{{ t("harder") }} <input v-model="form.harder" class="field"
          /></label>
          <label class="labelled">
            {{ t("countedBy") }} <input v-model="form.counted_by" class="field" />
          </label>
        </div>
        <h2 class="sub mt-2">{{ t("formsEasiestFirst") }}</h2>
        <VariantRows v-model="variants" />
      </fieldset>
      <fieldset class="board">
        <legend class="figure">{{ t("whatItNeeds") }}</legend>
        <div class="fields">
          <label class="labelled wide"
            >{{ t("space") }} <input v-model="form.space" class="field"
          /></label>
          <div class="labelled" role="group" :aria-label="t('places')">
            <i18n-t keypath="catalogue.placesSpan" scope="global"
              ><template #span
                ><span class="line">
                  <label v-for="place in PLACES" :key="place">
                    <input v-model="form.places" type="checkbox" :value="place" /> {{ place }}
                  </label>
                </span></template
              ></i18n-t
            >
          </div>
          <label class="labelled">
            {{ t("setUpSeconds") }}
            <input v-model.number="form.setup_seconds" class="field" type="number" min="0" />
          </label>
          <label class="labelled">
            {{ t("oneGoSeconds") }}
            <input v-model.number="form.trial_seconds" class="field" type="number" min="0" />
          </label>
          <label class="labelled">
            {{ t("changeoverSeconds") }}
            <input v-model.number="form.changeover_seconds" class="field" type="number" min="0" />
          </label>
          <label class="labelled">
            {{ t("atOnce") }}
            <input
              v-model="form.at_once"
              class="field"
              type="number"
              min="1"
              :placeholder="t('all')"
            />
          </label>
          <label class="labelled">
            {{ t("helpers") }}
            <input v-model.number="form.helpers" class="field" type="number" min="0" />
          </label>
          <label class="labelled">
            {{ t("fromAge") }} <input v-model.number="form.from_age" class="field" type="number" />
          </label>
          <label class="labelled">
            {{ t("toAge") }} <input v-model.number="form.to_age" class="field" type="number" />
          </label>
          <label class="labelled">
            {{ t("effort") }}
            <select v-model="form.effort" class="field">
              <option v-for="one in EFFORTS" :key="one.code" :value="one.code">
                {{ one.words }}
              </option>
            </select>
          </label>
        </div>
        <div class="line mt-2" role="group" :aria-label="t('loads')">
          <b>{{ t("loads") }}</b>
          <label v-for="tag in LOADS" :key="tag">
            <input v-model="form.loads" type="checkbox" :value="tag" /> {{ tag }}
          </label>
        </div>
        <h2 class="sub mt-2">{{ t("kit") }}</h2>
        <KitRows v-model="kit" />
      </fieldset>
      <ProtocolLimits v-model:form="form" v-model:conditions="conditions" />
      <div v-if="effects?.questions.length" class="board" role="status">
        <h2>{{ t("doesEverythingElseStillFitThe") }}</h2>
        <p v-for="line in effects.questions" :key="line">{{ line }}</p>
      </div>
      <div v-if="editing" class="board" role="status">
        <h2>{{ t("whatThisEditChanges") }}</h2>
        <template v-if="effects?.changed.length">
          <p>{{ t("changedChanged", { changed: effects.changed.join(", ") }) }}</p>
          <p v-for="line in effects.effects" :key="line">
            <strong>{{ line }}</strong>
          </p>
        </template>
        <p v-else class="quiet">{{ t("noChangesYet") }}</p>
        <label class="labelled mt-2">
          {{ t("reasonForTheChange") }} <input v-model="why" class="field" maxlength="240" />
        </label>
      </div>
      <p v-if="problem || unread" role="alert" class="problem">{{ problem || unread }}</p>
      <div class="line">
        <v-btn type="submit" color="primary" size="large" :loading="busy">
          {{ editing ? t("saveAsANewVersion") : t("saveTest") }}
        </v-btn>
        <v-btn variant="text" size="large" @click="router.back()">{{ t("cancel") }}</v-btn>
      </div>
    </form>
  </main>
</template>

<style scoped>
fieldset {
  min-width: 0;
}
legend {
  font-size: 1.5rem;
  padding: 0 8px;
}
.sub {
  font-size: 1.3rem;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 12px;
  align-items: end;
}
.fields .field {
  width: 100%;
}
.wide {
  grid-column: span 2;
}
textarea.field {
  width: 100%;
}
@media (max-width: 600px) {
  .wide {
    grid-column: auto;
  }
}
</style>
