<script setup lang="ts">
/** The forms of a movement, from the easiest, each with the key that chooses it. */
import type { Schemas } from "../api/client";

const variants = defineModel<Schemas["VariantEntry"][]>({ required: true });
</script>

<template>
  <div v-for="(one, place) in variants" :key="place" class="line mt-2">
    <input v-model="one.code" class="field" placeholder="code" aria-label="Code" size="10" />
    <input v-model="one.name" class="field" placeholder="name" aria-label="Name" size="18" />
    <input
      v-model="one.key"
      class="field"
      placeholder="key"
      aria-label="Key"
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
      the usual one
    </label>
    <v-btn variant="text" @click="variants = variants.filter((_, at) => at !== place)">
      Take away
    </v-btn>
  </div>
  <v-btn
    variant="outlined"
    class="mt-2"
    @click="variants = [...variants, { code: '', name: '', key: '', usual: !variants.length }]"
  >
    Add a variant
  </v-btn>
</template>
