<script setup lang="ts">
/** The forms of a movement, from the easiest, each with the key that chooses it. */
import { t } from "../messages/catalogue";
import type { Schemas } from "../api/client";

const variants = defineModel<Schemas["VariantEntry"][]>({ required: true });
</script>

<template>
  <div v-for="(one, place) in variants" :key="place" class="line mt-2">
    <input
      v-model="one.code"
      class="field"
      :placeholder="t('code')"
      :aria-label="t('code2')"
      size="10"
    />
    <input
      v-model="one.name"
      class="field"
      :placeholder="t('name2')"
      :aria-label="t('name')"
      size="18"
    />
    <input
      v-model="one.key"
      class="field"
      :placeholder="t('key')"
      :aria-label="t('key2')"
      maxlength="1"
      size="3"
    />
    <label class="line">
      <input
        type="radio"
        name="usual"
        :checked="one.usual"
        @change="variants = variants.map((each, at) => ({ ...each, usual: at === place }))"
      />
      {{ t("theUsualForm") }}
    </label>
    <v-btn variant="text" @click="variants = variants.filter((_, at) => at !== place)">
      {{ t("delete") }}
    </v-btn>
  </div>
  <v-btn
    variant="outlined"
    class="mt-2"
    @click="variants = [...variants, { code: '', name: '', key: '', usual: !variants.length }]"
  >
    {{ t("addForm") }}
  </v-btn>
</template>
