<script setup lang="ts">
/** The forms of the movement: this child's, and on purpose the whole class's. */
import { t } from "../../messages/sheet";
import { computed } from "vue";
import type { Schemas } from "../../api/client";

const props = defineProps<{
  variants: Schemas["VariantEntry"][];
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
  <template v-if="variants.length > 1">
    <span
      class="forms"
      role="group"
      :aria-label="name ? t('formForTest', { test: name }) : t('form')"
    >
      <span class="quiet name">{{ name ?? "" }}</span>
      <button
        v-for="one in variants"
        :key="one.code"
        type="button"
        class="tool"
        :disabled="!name"
        :aria-pressed="Boolean(name) && one.code === code"
        @pointerdown.prevent
        @click="emit('choose', one.code)"
      >
        {{ one.name }}
      </button>
    </span>
    <label v-if="others.length" class="forms quiet">
      {{ t("everyoneWithoutAScore") }}
      <select
        class="field"
        :aria-label="t('formForEveryoneWithoutAScore')"
        @change="
          emit('forAll', ($event.target as HTMLSelectElement).value);
          ($event.target as HTMLSelectElement).value = '';
        "
      >
        <option value="">{{ t("choose") }}</option>
        <option v-for="one in others" :key="one.code" :value="one.code">
          {{ t("formChangesN", { form: one.name, n: one.number }) }}
        </option>
      </select>
    </label>
  </template>
</template>

<style scoped>
.forms {
  flex: none;
  display: flex;
  align-items: center;
  gap: var(--gap-8);
}
/* The same width for every child: the forms stay where they are. */
.name {
  width: 150px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  text-align: right;
}
@media (max-width: 600px) {
  .name {
    width: 90px;
  }
}
</style>
