<script setup lang="ts">
/** What the server did not take, on the screens that have no row to show it in. */
import { computed } from "vue";
import type { CaptureRow, useCapture } from "./useCapture";

const props = defineProps<{
  rows: CaptureRow[];
  outbox: ReturnType<typeof useCapture>["outbox"];
  again: ReturnType<typeof useCapture>["again"];
}>();
const refused = computed(() => props.rows.filter((one) => one.refused));
</script>

<template>
  <p v-if="outbox.signedOut.value" role="alert" class="board">
    You are signed out. What you enter is kept on this device and sent after you sign in.
    <RouterLink :to="{ name: 'sign-in' }">Sign in</RouterLink>
  </p>
  <div v-if="refused.length" role="alert" class="board problem">
    <p v-for="one in refused" :key="one.child.pupil_id" class="line">
      <strong>{{ one.child.name }}, “{{ one.refused?.body.typed }}”:</strong>
      {{ one.refused?.refusal?.message }}
      <v-btn
        v-for="choice in one.refused?.refusal?.choices ?? []"
        :key="choice.typed"
        size="large"
        variant="outlined"
        @click="again(one, { typed: choice.typed })"
      >
        {{ choice.words }}
      </v-btn>
      <v-btn
        v-if="one.refused?.refusal?.sure"
        size="large"
        variant="outlined"
        @click="again(one, { sure: true })"
      >
        It is right
      </v-btn>
      <v-btn
        size="large"
        variant="outlined"
        @click="one.refused && outbox.dismiss(one.refused.body.id)"
      >
        Let it go
      </v-btn>
    </p>
  </div>
</template>
