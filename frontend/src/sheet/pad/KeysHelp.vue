<script setup lang="ts">
/** The keys of the screen one is looking at, for those who ask. */
import { t } from "../../messages/sheet";
import type { Board } from "../types";

defineProps<{
  board: Pick<Board, "reasons" | "variants" | "accepted">;
  tries?: number;
  waves?: number;
}>();
</script>

<template>
  <div class="board keys">
    <span
      ><i18n-t keypath="sheet.keySaveAndGoToThe" scope="global"
        ><template #key
          ><kbd>{{ t("enter") }}</kbd></template
        ></i18n-t
      ></span
    >
    <span v-for="reason in board.reasons" :key="reason.key">
      <kbd>{{ reason.key }}</kbd> {{ reason.key === reason.words ? "" : reason.words }}
    </span>
    <span
      ><i18n-t keypath="sheet.keyAfterTheScoreAnEstimate" scope="global"
        ><template #key><kbd>~</kbd></template></i18n-t
      ></span
    >
    <span v-if="board.variants.length > 1"
      ><i18n-t keypath="sheet.keyAnotherFormForThisChild" scope="global"
        ><template #key><kbd>*</kbd></template></i18n-t
      ></span
    >
    <span v-if="(waves ?? 1) > 1"
      ><i18n-t keypath="sheet.keyTheOtherWave" scope="global"
        ><template #key><kbd>#</kbd></template></i18n-t
      ></span
    >
    <span
      ><i18n-t keypath="sheet.keyTheScoreInQuestionIs" scope="global"
        ><template #key><kbd>!</kbd></template></i18n-t
      ></span
    >
    <span
      ><i18n-t keypath="sheet.key1CorrectItKey2OrKey3" scope="global"
        ><template #key1><kbd>&lt;</kbd></template
        ><template #key2
          ><kbd>{{ t("enter") }}</kbd></template
        ><template #key3><kbd>Backspace</kbd></template></i18n-t
      ></span
    >
    <span
      ><i18n-t keypath="sheet.keyLaterWhatYouTypedGoes" scope="global"
        ><template #key><kbd>&gt;</kbd></template></i18n-t
      ></span
    >
    <span
      ><i18n-t keypath="sheet.keyWhatYouTypedIsFor" scope="global"
        ><template #key><kbd>=</kbd></template></i18n-t
      ></span
    >
    <span
      ><i18n-t keypath="sheet.upDownMove" scope="global"
        ><template #up><kbd>↑</kbd></template
        ><template #down><kbd>↓</kbd></template></i18n-t
      ></span
    >
    <span v-if="(tries ?? 1) > 1"
      ><i18n-t keypath="sheet.leftRightAnotherTry" scope="global"
        ><template #left><kbd>←</kbd></template
        ><template #right><kbd>→</kbd></template></i18n-t
      ></span
    >
    <span
      ><i18n-t keypath="sheet.keyFindAChild" scope="global"
        ><template #key><kbd>/</kbd></template></i18n-t
      ></span
    >
    <span
      ><i18n-t keypath="sheet.keyUndo" scope="global"
        ><template #key
          ><kbd>{{ t("ctrlZ") }}</kbd></template
        ></i18n-t
      ></span
    >
    <span
      ><i18n-t keypath="sheet.keyClear" scope="global"
        ><template #key
          ><kbd>{{ t("esc") }}</kbd></template
        ></i18n-t
      ></span
    >
    <p class="quiet">{{ board.accepted }}</p>
  </div>
</template>

<style scoped>
.keys {
  display: grid;
  gap: var(--gap-8);
}
</style>
