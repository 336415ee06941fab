<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** New games: tests, ages and dates; the school's own ladders go along as they are now. */
import { t } from "../messages/challenges";
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { reactive } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { useTests } from "../catalogue/useTests";
import DraftNote from "../parts/form/DraftNote.vue";
import { useDraft } from "../parts/form/useDraft";
import { useOwnId } from "../parts/form/useOwnId";
import { isoDay } from "../parts/words";

defineEmits<{ close: [] }>();
const router = useRouter();
const queries = useQueryClient();
const tests = useTests();
const form = reactive<Omit<Schemas["NewGames"], "key">>({
  name: "",
  starts_on: isoDay(0),
  ends_on: isoDay(14),
  closes_on: isoDay(17),
  bands: [
    { name: t("youngest"), from_age: 4, to_age: 6 },
    { name: t("middle"), from_age: 7, to_age: 8 },
    { name: t("oldest"), from_age: 9, to_age: 11 },
  ],
  test_ids: [],
  took_part: 1,
  a_rung: 1,
  open_here: false,
});
const key = useOwnId(form);
const draft = useDraft(form, () => "new-games");
const DAYS = {
  starts_on: t("firstDay"),
  ends_on: t("lastDayOfTheGames"),
  closes_on: t("lastDayForResults"),
} as const;
const POINTS = { took_part: t("takingPartInATest"), a_rung: t("eachRungReached") } as const;
const making = useMutation({
  mutationFn: () => answer(client.POST("/api/games", { body: { ...form, key: key.value } })),
  onSuccess: async ({ id }) => {
    draft.forget();
    await queries.invalidateQueries({ queryKey: ["games"] });
    await router.push({ name: "one-games", params: { gamesId: id } });
  },
});
</script>

<template>
  <form class="board stack" @submit.prevent="making.mutate()">
    <DraftNote :draft="draft" />
    <div class="line">
      <v-text-field
        v-model="form.name"
        maxlength="60"
        required
        :placeholder="t('autumnGames')"
        :label="t('name')"
      />
      <v-text-field
        v-for="(words, day) in DAYS"
        :key="day"
        v-model="form[day]"
        type="date"
        required
        :label="words"
      />
    </div>
    <v-autocomplete
      v-model="form.test_ids"
      multiple
      chips
      closable-chips
      auto-select-first
      clear-on-select
      hide-details
      :items="tests.data.value ?? []"
      item-title="name"
      item-value="id"
      :label="t('testsInOrder')"
    />
    <fieldset>
      <legend>{{ t("agesOnTheFirstDay") }}</legend>
      <div v-for="(band, place) in form.bands" :key="place" class="line">
        <v-text-field
          v-model="band.name"
          maxlength="60"
          :aria-label="t('nameOfAgeGroupPlace', { place: place + 1 })"
        />
        <v-text-field
          v-model.number="band.from_age"
          class="num"
          type="number"
          min="3"
          max="19"
          :aria-labelledby="undefined"
          :aria-label="t('ageGroupPlaceFrom', { place: place + 1 })"
          :label="t('from')"
        />
        <v-text-field
          v-model.number="band.to_age"
          class="num"
          type="number"
          min="3"
          max="19"
          :aria-labelledby="undefined"
          :aria-label="t('ageGroupPlaceTo', { place: place + 1 })"
          :label="t('to')"
        />
        <v-btn
          v-if="form.bands.length > 1"
          :icon="mdiClose"
          variant="text"
          :aria-label="t('removeAgeGroupPlace', { place: place + 1 })"
          @click="form.bands.splice(place, 1)"
        />
      </div>
      <v-btn
        v-if="form.bands.length < 6"
        variant="outlined"
        @click="form.bands.push({ name: t('more'), from_age: 12, to_age: 13 })"
      >
        {{ t("addAgeGroup") }}
      </v-btn>
    </fieldset>
    <div class="line">
      {{ t("points2") }}
      <v-text-field
        v-for="(words, rule) in POINTS"
        :key="rule"
        v-model.number="form[rule]"
        class="num"
        type="number"
        min="0"
        max="100"
        :label="words"
      />
      <span class="quiet">{{ t("schoolsAreRankedByPointsPer") }}</span>
    </div>
    <v-checkbox v-model="form.open_here" class="pick" :label="t('otherSchoolsOnThisLaufMay')" />
    <p v-if="making.error.value" role="alert" class="problem">{{ making.error.value.message }}</p>
    <div class="line">
      <v-btn
        type="submit"
        color="primary"
        size="large"
        :disabled="!form.test_ids.length"
        :loading="making.isPending.value"
      >
        {{ t("createGames") }}
      </v-btn>
      <v-btn variant="outlined" size="large" @click="$emit('close')">{{ t("cancel") }}</v-btn>
      <span v-if="!form.test_ids.length" class="quiet">{{ t("chooseATestFirst") }}</span>
    </div>
  </form>
</template>

<style scoped>
fieldset {
  border: var(--line-2) solid var(--rule);
  border-radius: var(--radius);
  padding: var(--gap-4) var(--gap-12) var(--gap-8);
  display: grid;
  gap: var(--gap-8);
  justify-items: start;
}
legend {
  font-weight: 700;
  padding: 0 var(--gap-8);
}
.num {
  width: 84px;
}
.pick {
  min-height: 44px;
}
</style>
