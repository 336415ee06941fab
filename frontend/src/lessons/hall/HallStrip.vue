<script setup lang="ts">
/** The hall's strip: the one clock of what is shown, its name, and the main button. */
import { t } from "../../messages/lessons";
import { computed, useTemplateRef, watch } from "vue";
import type { Zone } from "../../sheet/frame";
import DrawerButton from "../../sheet/parts/DrawerButton.vue";
import * as conductor from "./clock/conductor";
import { phaseWords, useClockWords } from "./clock/useClockWords";
import { useConductor } from "./clock/useConductor";
import type { Hall } from "./useHall";

const props = defineProps<{ hall: Hall; whole: boolean; filled: boolean }>();
const emit = defineEmits<{ fill: []; zone: [name: Zone, element: HTMLElement | null] }>();
const { plan, state, place, flash } = useConductor();
const { segment, paused, waiting, isOn, isOwnClock, shown, stopOn } = props.hall;
const { hasOwn, primary, live, canPause } = props.hall;
const words = useClockWords(plan, state, place);
const own = useTemplateRef<HTMLElement>("own");
const main = useTemplateRef<HTMLElement>("main");
watch(own, (element) => emit("zone", "own", element));
watch(main, (element) => emit("zone", "main", element));

const wave = computed(() => {
  const { wave: number = 0, block } = segment.value ?? {};
  const called = plan.value?.segments.some(
    (one) => one.block === block && one.phase === "work" && one.wave > 1,
  );
  return called && number ? t("waveWave", { wave: number }) : "";
});
const what = computed(() => {
  if (words.over.value) return t("theEnd");
  if (flash.value && !waiting.value) return flash.value;
  return phaseWords(segment.value?.phase) ?? segment.value?.label ?? "";
});
/** What the plan does while a test beside it is timed. */
const beside = computed(() => {
  if (!live.value || isOn(shown.value)) return "";
  const name = stopOn.value?.label ?? "";
  return paused.value || waiting.value
    ? t("thePlanIsWaitingAtBlock", { block: name })
    : t("thePlanIsGoingOnBlock", { block: name });
});
/** A test nobody calls takes as long as it takes: no time runs out. */
const counts = computed(() => !isOwnClock.value || !state.value);
</script>

<template>
  <div class="strip no-print" :class="segment?.phase" data-testid="strip">
    <template v-if="hasOwn">
      <div ref="own" class="own-zone" />
      <p v-if="beside" class="quiet beside" data-testid="beside">{{ beside }}</p>
    </template>
    <template v-else-if="!whole">
      <p v-if="counts" class="figure digits" data-testid="clock">
        {{ words.over.value ? "0" : conductor.clockShown(words.left.value) }}
      </p>
      <div class="words">
        <p class="figure now" :class="{ flash: flash && !waiting }" data-testid="now">
          <span v-if="waiting" class="stands" data-testid="waiting">{{
            words.waitsFor.value
          }}</span>
          <span v-else-if="paused" class="stands" data-testid="paused">{{ t("paused") }}</span>
          <span v-if="!waiting" class="what">{{ what }}</span>
        </p>
        <p class="quiet next" :title="`${stopOn?.label ?? ''} ${wave} ${words.following.value}`">
          <i18n-t keypath="lessons.blockWaveNextNext" scope="global"
            ><template #wave>{{ wave }}</template
            ><template #next>{{ words.following.value }}</template
            ><template #block
              ><strong data-testid="block">{{ stopOn?.label }}</strong></template
            ></i18n-t
          >
        </p>
      </div>
    </template>
    <div class="buttons" @pointerdown.prevent>
      <div v-if="hasOwn" ref="main" class="main-zone" />
      <v-btn v-else-if="primary" color="primary" size="x-large" @click="primary.act">
        {{ primary.says }}
      </v-btn>
      <v-btn
        v-if="hasOwn && primary && isOn(shown)"
        class="second"
        size="large"
        variant="outlined"
        @click="primary.act"
      >
        {{ primary.says }}
      </v-btn>
      <v-btn v-if="canPause" class="second" size="large" variant="outlined" @click="hall.pause">
        {{ t("pause") }}
      </v-btn>
      <!-- Beside a clock of its own its name needs the room: they stand under "More" too. -->
      <template v-if="live && !hasOwn">
        <v-btn class="seldom" size="large" variant="outlined" @click="hall.back">{{
          t("back")
        }}</v-btn>
        <v-btn class="seldom" size="large" variant="outlined" @click="hall.skip">{{
          t("skip")
        }}</v-btn>
      </template>
      <v-btn v-if="!filled" class="seldom" size="large" variant="text" @click="$emit('fill')">
        {{ t("fullScreen") }}
      </v-btn>
      <DrawerButton what="more">{{ t("more") }}</DrawerButton>
    </div>
  </div>
</template>

<style scoped>
.strip {
  grid-area: strip;
  height: var(--strip);
  min-width: 0;
  display: flex;
  align-items: center;
  gap: var(--gap-16);
  border: var(--line-3) solid var(--line);
  border-radius: var(--radius);
  background: var(--board);
  padding: 0 var(--gap-8) 0 var(--gap-16);
  overflow: hidden;
}
.digits {
  flex: none;
  margin: 0;
  font-size: var(--digits);
  line-height: 0.9;
  min-width: 2.1em;
  font-variant-numeric: tabular-nums;
  color: var(--chalk);
}
.work .digits,
.count .digits {
  color: var(--ink);
}
.own-zone {
  flex: 0 1 auto;
  min-width: 0;
  height: 100%;
}
.words {
  flex: 1;
  min-width: 0;
}
.words p,
.beside {
  margin: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  line-height: 1.15;
}
.beside {
  min-width: 0;
}
.now {
  font-size: var(--type-28);
}
.now.flash {
  color: var(--pennant);
}
.stands {
  display: inline-block;
  font-size: var(--type-18);
  line-height: 1;
  border: var(--line-3) solid var(--pennant);
  border-radius: var(--radius);
  padding: 0 var(--gap-8);
  margin-right: var(--gap-8);
}
.buttons {
  flex: none;
  margin-left: auto;
  display: flex;
  align-items: center;
  gap: var(--gap-8);
}
.main-zone {
  display: contents;
}
@media (max-width: 1023px) {
  .seldom {
    display: none; /* they stand under "More" too */
  }
}
@media (max-width: 600px) {
  /* The time, and under it whose it is: both are there at every width. */
  .strip {
    position: relative;
    gap: var(--gap-4);
    padding: 0 var(--gap-4) 0 var(--gap-8);
    display: grid;
    grid-template: "digits buttons" 42px "words buttons" 1fr / minmax(0, 1fr) auto;
    align-items: center;
  }
  .digits {
    grid-area: digits;
  }
  .words {
    grid-area: words;
    align-self: start;
  }
  .now {
    display: none;
  }
  .now.flash,
  .now:has(.stands) {
    display: block;
    position: absolute;
    top: 8px;
    left: 92px;
    max-width: 72px;
    font-size: var(--type-14);
  }
  .stands {
    font-size: inherit;
    padding: 0 var(--gap-4);
  }
  /* No room for both: that it stands still matters more. */
  .stands + .what {
    display: none;
  }
  .next {
    font-size: var(--type-14);
  }
  .own-zone {
    grid-area: 1 / 1 / 3 / 2;
  }
  .second,
  .beside {
    display: none;
  }
  .buttons {
    grid-area: buttons;
    gap: var(--gap-4);
  }
  .buttons :deep(.v-btn) {
    min-width: 0;
    max-width: 132px;
    height: 56px;
    padding: 0 var(--gap-8);
    font-size: var(--type-16);
  }
  .buttons :deep(.v-btn__content) {
    white-space: normal;
    line-height: 1.1;
  }
  .buttons .tool {
    padding: 0 var(--gap-8);
  }
}
@media (max-height: 500px) {
  .now {
    font-size: var(--type-18);
  }
  .buttons :deep(.v-btn) {
    height: 44px;
  }
}
</style>
