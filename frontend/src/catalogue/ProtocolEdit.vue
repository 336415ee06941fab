<script setup lang="ts">
/** A test from scratch, from a copy, or the next version of one. */
import PageHead from "../parts/PageHead.vue";
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
    <PageHead :title="editing ? t('editName', { name }) : copy ? t('copyATest') : t('newTest')"
      ><template #trail
        ><RouterLink :to="{ name: 'catalogue' }">{{ t("catalogue") }}</RouterLink></template
      ></PageHead
    >
    <LoadState v-if="testId" :query="page"><span /></LoadState>
    <form v-if="!testId || page.data.value" class="stack" @submit.prevent="save">
      <DraftNote :draft="draft" />
      <fieldset class="board">
        <legend class="figure">{{ t("whatItIs") }}</legend>
        <div class="fields">
          <v-text-field
            v-model="name"
            class="wide"
            required
            :disabled="editing"
            maxlength="80"
            :label="t('name')"
          />
          <v-select
            v-model="family"
            :disabled="editing"
            :label="t('family')"
            :items="
              (catalogue.data.value?.families ?? []).map((one) => ({
                value: one.code,
                title: one.words,
              }))
            "
          />
          <v-select
            v-model="form.kind"
            :label="t('kindOfScore')"
            :items="KINDS.map((one) => ({ value: one.code, title: one.words }))"
            @update:model-value="kindChosen"
          />
          <v-select
            v-model="form.better"
            :label="t('betterIs')"
            :items="[
              { value: 'up', title: t('more') },
              { value: 'down', title: t('less') },
            ]"
          />
          <v-select
            v-model="form.unit"
            :label="t('unit')"
            :items="units.map((unit) => ({ value: unit, title: unit }))"
          />
          <v-text-field
            v-model="form.seconds"
            type="number"
            min="1"
            :placeholder="t('none')"
            :label="t('clockSeconds')"
          />
          <v-text-field
            v-model.number="form.waves"
            type="number"
            min="1"
            max="8"
            :label="t('waves')"
          />
          <v-text-field
            v-model.number="form.tries"
            type="number"
            min="1"
            max="10"
            :label="t('tries')"
          />
          <v-select
            v-if="(form.tries ?? 1) > 1"
            v-model="form.merge"
            :label="t('whatCounts')"
            :items="MERGES.map((one) => ({ value: one.code, title: one.words }))"
          />
          <v-text-field
            v-if="form.kind === 'hits'"
            v-model="form.of"
            type="number"
            min="1"
            :label="t('outOf')"
          />
          <v-select
            v-if="form.kind === 'stage'"
            v-model="form.schedule"
            :label="t('schedule')"
            :items="[
              { value: 'even', title: t('n85KmHThen0') },
              { value: 'jump', title: t('n8090Then0') },
            ]"
          />
        </div>
      </fieldset>
      <fieldset class="board">
        <legend class="figure">{{ t("showAndSay") }}</legend>
        <div class="two-columns">
          <v-textarea v-model="lines.say" rows="4" :label="t('whatToSayOneSentencePer')" />
          <v-textarea v-model="lines.cautions" rows="4" :label="t('cautionsOnePerLine')" />
          <v-textarea v-model="lines.counts" rows="3" :label="t('whatCounts')" />
          <v-textarea v-model="lines.does_not_count" rows="3" :label="t('whatDoesNotCount')" />
        </div>
        <div class="fields mt-2">
          <v-text-field v-model="form.ends" class="wide" :label="t('itEnds')" />
          <v-text-field v-model="form.easier" class="wide" :label="t('easier')" />
          <v-text-field v-model="form.harder" class="wide" :label="t('harder')" />
          <v-text-field v-model="form.counted_by" :label="t('countedBy')" />
        </div>
        <h2 class="sub mt-2">{{ t("formsEasiestFirst") }}</h2>
        <VariantRows v-model="variants" />
      </fieldset>
      <fieldset class="board">
        <legend class="figure">{{ t("whatItNeeds") }}</legend>
        <div class="fields">
          <v-text-field v-model="form.space" class="wide" :label="t('space')" />
          <div class="labelled" role="group" :aria-label="t('places')">
            <i18n-t keypath="catalogue.placesSpan" scope="global"
              ><template #span
                ><span class="line">
                  <v-checkbox
                    v-for="place in PLACES"
                    :key="place"
                    v-model="form.places"
                    :value="place"
                    :label="place"
                  /> </span></template
            ></i18n-t>
          </div>
          <v-text-field
            v-model.number="form.setup_seconds"
            type="number"
            min="0"
            :label="t('setUpSeconds')"
          />
          <v-text-field
            v-model.number="form.trial_seconds"
            type="number"
            min="0"
            :label="t('oneGoSeconds')"
          />
          <v-text-field
            v-model.number="form.changeover_seconds"
            type="number"
            min="0"
            :label="t('changeoverSeconds')"
          />
          <v-text-field
            v-model="form.at_once"
            type="number"
            min="1"
            :placeholder="t('all')"
            :label="t('atOnce')"
          />
          <v-text-field v-model.number="form.helpers" type="number" min="0" :label="t('helpers')" />
          <v-text-field v-model.number="form.from_age" type="number" :label="t('fromAge')" />
          <v-text-field v-model.number="form.to_age" type="number" :label="t('toAge')" />
          <v-select
            v-model="form.effort"
            :label="t('effort')"
            :items="EFFORTS.map((one) => ({ value: one.code, title: one.words }))"
          />
        </div>
        <div class="line mt-2" role="group" :aria-label="t('loads')">
          <b>{{ t("loads") }}</b>
          <v-checkbox
            v-for="tag in LOADS"
            :key="tag"
            v-model="form.loads"
            :value="tag"
            :label="tag"
          />
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
        <v-text-field v-model="why" class="mt-2" maxlength="240" :label="t('reasonForTheChange')" />
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
  font-size: var(--type-24);
  padding: 0 var(--gap-8);
}
.sub {
  font-size: var(--type-24);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: var(--gap-12);
  align-items: end;
}
.wide {
  grid-column: span 2;
}
@media (max-width: 600px) {
  .wide {
    grid-column: auto;
  }
}
</style>
