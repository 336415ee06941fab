<script setup lang="ts">
/** Who does which form of the movement, on the ways that have no row to say it in. */
import { t } from "../../messages/sheet";
import type { TestSheet } from "../useTest";
import DrawerButton from "./DrawerButton.vue";
import InDrawer from "./InDrawer.vue";

const props = defineProps<{ test: TestSheet }>();
const { board, rows, variants, doers } = props.test;
const number = (code: string) => rows.value.filter((one) => one.variant === code).length;
</script>

<template>
  <template v-if="board && board.variants.length > 1">
    <DrawerButton what="forms">
      <template v-for="(one, place) in board.variants" :key="one.code">
        {{ place ? " · " : "" }}{{ one.name }} {{ number(one.code) }}
      </template>
    </DrawerButton>
    <InDrawer what="forms">
      <section class="board stack" :aria-label="t('forms')">
        <h2>{{ t("everyoneWithoutAScore") }}</h2>
        <v-btn
          v-for="one in board.variants"
          :key="one.code"
          size="large"
          variant="outlined"
          :disabled="!variants.wouldChange(doers, one.code)"
          @click="variants.chooseForAll(doers, one.code)"
        >
          {{ t("formChangesN", { form: one.name, n: variants.wouldChange(doers, one.code) }) }}
        </v-btn>
        <h2>{{ t("oneChild") }}</h2>
        <v-btn
          v-for="row in rows"
          :key="row.child.pupil_id"
          size="large"
          variant="text"
          @click="variants.turn(test.doer(row))"
        >
          {{ row.child.name }}: {{ variants.nameOf("", row.variant) }}
        </v-btn>
      </section>
    </InDrawer>
  </template>
</template>
