<script setup lang="ts">
/** What wants an answer before the typing goes on, and the keys and buttons that give it. */
import { t } from "../../messages/sheet";
import { computed } from "vue";
import type { Hold } from "../useHold";
import type { Sheet } from "../useSheet";

const props = defineProps<{ sheet: Sheet; hold: Hold; next: string; typed: boolean }>();
defineEmits<{
  right: [];
  correct: [];
  later: [];
  here: [];
  decide: [change: { typed?: string; over?: boolean } | null];
}>();
const { matter, refusal, held, canBeRight } = props.hold;
const name = computed(() =>
  matter.value?.place ? props.sheet.source.name(matter.value.place.pupilId) : "",
);
const sent = computed(() => {
  const place = matter.value?.place;
  return place ? props.sheet.cell(place).typed : "";
});
const current = computed(() => refusal.value?.current ?? null);
const words = computed(() => {
  const now = matter.value;
  if (now?.kind === "local") return [now.local.message, now.local.accepted];
  if (now?.kind === "refused") return [refusal.value?.message ?? "", refusal.value?.accepted ?? ""];
  if (now?.kind === "asked") {
    return [`${now.question.shown}?`, now.question.flags.map((flag) => flag.words).join(" ")];
  }
  return ["", ""];
});
</script>

<template>
  <div
    id="problem"
    class="text"
    role="alert"
    :aria-label="matter?.kind === 'asked' ? t('unusualScore') : undefined"
    data-testid="problem"
  >
    <p v-if="matter?.kind === 'aside'">{{ t("typedWhileYouWereAskedNot") }}</p>
    <p v-else-if="current">
      <i18n-t keypath="sheet.childWhoEnteredTheirsOnAnother" scope="global"
        ><template #who>{{ current.by }}</template
        ><template #theirs>{{ current.typed || t("nothing") }}</template
        ><template #yours>{{ sent }}</template
        ><template #child
          ><strong>{{ name }}:</strong></template
        ></i18n-t
      >
    </p>
    <p v-else>
      <strong>{{ name }}: {{ words[0] }}</strong> {{ words[1] }}
    </p>
  </div>
  <p v-if="held.length" class="held" data-testid="held">
    <i18n-t keypath="sheet.waitingNumbers" scope="global"
      ><template #numbers
        ><b class="figure">{{ held.join(", ") }}</b></template
      ></i18n-t
    >
  </p>
  <div class="acts" @pointerdown.prevent>
    <template v-if="current">
      <button type="button" class="tool" @click="$emit('decide', null)">
        {{ t("keepScore", { score: current.typed || t("theirs") }) }}
      </button>
      <button type="button" class="tool" @click="$emit('decide', { over: true })">
        {{ t("useSent", { sent }) }}
      </button>
    </template>
    <template v-for="choice in refusal?.choices ?? []" :key="choice.typed">
      <button type="button" class="tool" @click="$emit('decide', { typed: choice.typed })">
        {{ choice.words }}
      </button>
    </template>
    <button v-if="canBeRight" type="button" class="tool main" @click="$emit('right')">
      <i18n-t keypath="sheet.keyItIsRight" scope="global"
        ><template #key><kbd>!</kbd></template></i18n-t
      >
    </button>
    <button v-if="typed && name && !current" type="button" class="tool" @click="$emit('correct')">
      <i18n-t keypath="sheet.keyCorrectIt" scope="global"
        ><template #key><kbd>&lt;</kbd></template></i18n-t
      >
    </button>
    <button v-if="name && held.length" type="button" class="tool" @click="$emit('here')">
      <i18n-t keypath="sheet.keyScoreForChild" scope="global"
        ><template #score>{{ held[0] }}</template
        ><template #child>{{ name.split(" ")[0] }}</template
        ><template #key><kbd>=</kbd></template></i18n-t
      >
    </button>
    <button type="button" class="tool" @click="$emit('later')">
      <kbd>&gt;</kbd>
      {{
        !held.length
          ? t("later")
          : t("scoreForChild", { score: held[0], child: next.split(" ")[0] || t("theNext") })
      }}
    </button>
    <button
      v-if="(matter?.kind === 'refused' && !current) || matter?.kind === 'aside'"
      type="button"
      class="tool"
      @click="$emit('decide', null)"
    >
      {{ t("discard") }}
    </button>
  </div>
</template>

<style scoped src="./message.css"></style>
