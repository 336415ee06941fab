<script setup lang="ts">
/** The settings of one block: its name, what its kind has an editor for, and what is said. */
import SettledField from "../../parts/form/SettledField.vue";
import { t } from "../../messages/lessons";
import { computed, reactive, watch, type Component } from "vue";
import { has, type Entry } from "./blocks";
import SecondsField from "./SecondsField.vue";

const props = defineProps<{ entry: Entry }>();
const emit = defineEmits<{ change: [entry: Entry] }>();
/** The editors of kinds with settings of their own, by the kind: `WarmUp.vue` is of "warm_up". */
const EDITORS = Object.fromEntries(
  Object.entries(
    import.meta.glob<Component>("./editors/*.vue", { eager: true, import: "default" }),
  ).map(([path, editor]) => {
    const name = path.replace("./editors/", "").replace(".vue", "");
    return [name.replace(/(?<=.)[A-Z]/g, (letter) => `_${letter}`).toLowerCase(), editor];
  }),
);
const form = reactive<Entry>(JSON.parse(JSON.stringify(props.entry)) as Entry);
const editor = computed(() => EDITORS[form.kind]);
let sent = JSON.stringify(form);
watch(
  form,
  () => {
    if (form.kind === "test" && !form.test_id) return;
    const now = JSON.stringify(form);
    if (now === sent) return;
    sent = now;
    emit("change", JSON.parse(now) as Entry);
  },
  { deep: true },
);
// A block that is called as its movement is renamed with it.
watch(
  () => props.entry.label,
  (label) => {
    form.label = label;
    sent = JSON.stringify(form);
  },
);
</script>

<template>
  <div class="line fields">
    <SettledField
      v-if="form.kind !== 'test'"
      v-model="form.label"
      maxlength="80"
      :label="t('name')"
    />
    <component :is="editor" v-if="editor" :model-value="form" :block-id="entry.id ?? null" />
    <SecondsField v-else-if="'seconds' in form" v-model="form.seconds" />
    <SettledField
      v-if="has(form.kind, 'say')"
      v-model="(form as { say?: string | null }).say"
      class="grow"
      maxlength="120"
      :label="t('say')"
    />
  </div>
</template>

<style scoped>
.fields {
  padding: var(--gap-8) 0 var(--gap-8);
  align-items: end;
}
.grow {
  flex: 1;
  min-width: 200px;
}
.grow .v-input {
  width: 100%;
}
</style>
