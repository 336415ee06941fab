<script setup lang="ts">
/** The forms of a movement, from the easiest, each with the key that chooses it. */
import { t } from "../messages/catalogue";
import type { Schemas } from "../api/client";

const variants = defineModel<Schemas["VariantEntry"][]>({ required: true });
</script>

<template>
  <div v-for="(one, place) in variants" :key="place" class="line mt-2">
    <v-text-field v-model="one.code" :label="t('code2')" size="10" />
    <v-text-field v-model="one.name" :label="t('name')" size="18" />
    <v-text-field v-model="one.key" :label="t('key2')" maxlength="1" size="3" />
    <v-radio
      name="usual"
      :model-value="one.usual"
      :value="true"
      :label="t('theUsualForm')"
      @update:model-value="
        variants = variants.map((each, at) => ({ ...each, usual: at === place }))
      "
    />
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
