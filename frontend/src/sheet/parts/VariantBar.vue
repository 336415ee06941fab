<script setup lang="ts">
/** The forms of the movement: this child's, and on purpose the whole class's. */
import { computed } from "vue";
import type { Schemas } from "../../api/client";

const props = defineProps<{
  variants: Schemas["VariantRow"][];
  /** The child under the cursor, and its form. */
  name: string | null;
  code: string;
  /** How many a choice for the class would change. */
  wouldChange: (code: string) => number;
}>();
const emit = defineEmits<{ choose: [code: string]; forAll: [code: string] }>();
const others = computed(() =>
  props.variants
    .map((one) => ({ ...one, number: props.wouldChange(one.code) }))
    .filter((one) => one.number > 0),
);
</script>

<template>
  <div v-if="variants.length > 1" class="line forms no-print">
    <span v-if="name" class="line" role="group" :aria-label="`Form of ${name}`">
      <span class="quiet">{{ name }}:</span>
      <button
        v-for="one in variants"
        :key="one.code"
        type="button"
        class="tag pick"
        :aria-pressed="one.code === code"
        @pointerdown.prevent
        @click="emit('choose', one.code)"
      >
        {{ one.name }}
      </button>
    </span>
    <label v-if="others.length" class="line quiet">
      All without a score
      <select
        class="field"
        aria-label="Form of all without a score"
        @change="
          emit('forAll', ($event.target as HTMLSelectElement).value);
          ($event.target as HTMLSelectElement).value = '';
        "
      >
        <option value="">choose</option>
        <option v-for="one in others" :key="one.code" :value="one.code">
          {{ one.name }}: changes {{ one.number }}
        </option>
      </select>
    </label>
  </div>
</template>

<style scoped>
.forms {
  margin-bottom: 6px;
}
.pick {
  min-height: 44px;
  padding: 0 12px;
}
.pick[aria-pressed="true"] {
  border-color: var(--line);
  border-width: 3px;
  font-weight: 700;
}
</style>
