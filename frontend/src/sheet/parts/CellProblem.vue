<script setup lang="ts">
/** What the server would not take at a place, and what can be done about it. */
import { computed } from "vue";
import type { Cell } from "../types";
import type { Sheet } from "../useSheet";

const props = defineProps<{ sheet: Sheet; cell: Cell }>();
const emit = defineEmits<{ done: [] }>();
const refusal = computed(() => props.cell.refusal);
const typed = computed(() => (props.cell.job?.body as { typed?: string } | undefined)?.typed ?? "");

function again(change: { typed?: string; sure?: boolean; over?: boolean }) {
  props.sheet.resend(props.cell.place, change);
  emit("done");
}
function letGo() {
  props.sheet.letGo(props.cell.place);
  emit("done");
}
</script>

<template>
  <div v-if="refusal" class="line said">
    <template v-if="refusal.current">
      <span>
        <strong>{{ refusal.current.by }}</strong> entered
        {{ refusal.current.typed || "nothing" }} on another device; you typed {{ typed }}.
      </span>
      <v-btn size="small" variant="outlined" @click.stop="letGo">
        Keep {{ refusal.current.typed || "theirs" }}
      </v-btn>
      <v-btn size="small" color="primary" @click.stop="again({ over: true })">
        Use {{ typed }}
      </v-btn>
    </template>
    <template v-else>
      <span>
        <strong>{{ refusal.message }}</strong> {{ refusal.accepted }}
      </span>
      <v-btn
        v-for="choice in refusal.choices"
        :key="choice.typed"
        size="small"
        variant="outlined"
        @click.stop="again({ typed: choice.typed })"
      >
        {{ choice.words }}
      </v-btn>
      <v-btn v-if="refusal.sure" size="small" color="primary" @click.stop="again({ sure: true })">
        It is right
      </v-btn>
      <v-btn size="small" variant="outlined" @click.stop="letGo">Let it go</v-btn>
    </template>
  </div>
</template>

<style scoped>
.said {
  gap: 6px 10px;
}
</style>
