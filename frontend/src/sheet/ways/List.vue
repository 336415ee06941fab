<script setup lang="ts">
/** Scores typed down the class, or along the tries of one child. */
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import LoadState from "../../parts/LoadState.vue";
import ConditionsLine from "../parts/ConditionsLine.vue";
import Finder from "../parts/Finder.vue";
import KeysHelp from "../parts/KeysHelp.vue";
import OwnAims from "../parts/OwnAims.vue";
import Pad from "../parts/Pad.vue";
import RivalLine from "../parts/RivalLine.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import VariantBar from "../parts/VariantBar.vue";
import { useAims } from "../sources/aims";
import { usePad } from "../usePad";
import type { Activity } from "../useTest";
import ListRow from "./ListRow.vue";
import { useList } from "./useList";

const props = defineProps<{ activity: Activity }>();
/** More than so many would be a table of their own: by age and sex, say. */
const MOST_LADDERS = 3;
const list = useList(() => props.activity);
const { test, along, keysShown, cursor, row, entry, finder, focus } = list;
const { query, board, rows, sheet, variants, many, own } = test;
const { pad, turnPad } = usePad();
const aims = useAims(props.activity.id, () => board.value?.private === false);
const aimsShown = ref(false);
/** The ladders of the class, each once, with the form of the movement it is for. */
const ladders = computed(() => {
  const found = new Map<string, { form: string; rungs: Schemas["LaneRung"][] }>();
  for (const { child } of rows.value) {
    const { rungs, variant } = child.lane;
    if (rungs.length) {
      found.set(JSON.stringify(rungs), { form: variants.nameOf("", variant), rungs });
    }
  }
  return found.size <= MOST_LADDERS ? [...found.values()] : [];
});
const ownOf = computed(() => (row.value ? (own.get(row.value.child.pupil_id) ?? {}) : {}));
</script>

<template>
  <LoadState :query="query">
    <section v-if="board" class="capture" :class="{ 'with-pad': pad }">
      <div class="side">
        <div class="bar no-print">
          <span class="figure count" data-testid="count"
            >{{ test.done.value }} / {{ rows.length }}</span
          >
          <span v-if="many" class="line" role="group" aria-label="Tries">
            <button
              v-for="way in [false, true]"
              :key="String(way)"
              type="button"
              class="tag"
              :aria-pressed="along === way"
              @pointerdown.prevent
              @click="along = way"
            >
              {{ way ? "all tries of one child" : "down the class" }}
            </button>
            <span class="quiet">{{ board.merge }} of {{ board.tries }} counts</span>
          </span>
          <span class="space" />
          <v-btn
            v-if="!board.private"
            variant="text"
            :aria-expanded="aimsShown"
            @click="aimsShown = !aimsShown"
          >
            Own targets
          </v-btn>
          <v-btn variant="text" @click="finder.letters.value = ''"><kbd>/</kbd>&nbsp;Find</v-btn>
          <v-btn variant="text" @pointerdown.prevent @click="list.takeBack">Undo</v-btn>
          <v-btn variant="text" :aria-pressed="pad" @pointerdown.prevent @click="turnPad()">
            Pad
          </v-btn>
          <v-btn
            variant="text"
            :aria-expanded="keysShown"
            @pointerdown.prevent
            @click="keysShown = !keysShown"
          >
            <kbd>?</kbd>&nbsp;Keys
          </v-btn>
        </div>
        <OwnAims v-if="aimsShown" :aims="aims" @close="((aimsShown = false), focus())" />
        <KeysHelp v-if="keysShown" :board="board" :tries="board.tries" :waves="board.waves" />
        <SheetNotes
          :sheet="sheet"
          @correct="list.goTo"
          @done="(place) => list.isHere(place) && cursor.next()"
        >
          <p v-if="entry.problem.value" role="alert" class="problem" data-testid="problem">
            <strong>{{ row?.child.name }}: {{ entry.problem.value.message }}</strong>
            {{ entry.problem.value.accepted }}
          </p>
        </SheetNotes>
        <VariantBar
          :variants="board.variants"
          :name="row?.child.name ?? null"
          :code="row?.variant ?? ''"
          :would-change="(code) => variants.wouldChange(test.doers.value, code)"
          @choose="(code) => row && variants.choose(test.doer(row), code)"
          @for-all="(code) => (variants.chooseForAll(test.doers.value, code), focus())"
        />
        <ConditionsLine
          :board="board"
          :child="row?.child.name ?? null"
          :own="ownOf"
          @own="(held) => row && own.set(row.child.pupil_id, held)"
        />
        <Finder v-model="finder.letters.value" :matches="finder.matches.value" @pick="list.pick" />
        <p v-for="one in ladders" :key="one.form" class="rungs quiet" data-testid="rungs">
          {{ one.form ? `Rungs, ${one.form}:` : "Rungs:" }}
          <span v-for="rung in one.rungs" :key="rung.name">{{ rung.name }} {{ rung.shown }}</span>
        </p>
        <ol class="children">
          <ListRow
            v-for="(one, index) in rows"
            :id="`child-${index}`"
            :key="one.child.pupil_id"
            :list="list"
            :row="one"
            :index="index"
            :pad="pad"
            :aim="aims.of(one.child.pupil_id)"
          />
        </ol>
        <RivalLine :activity-id="activity.id" />
        <p
          v-if="cursor.rested.value"
          :ref="list.field"
          data-cell
          tabindex="0"
          class="board rest"
          data-testid="all-in"
          @keydown="list.onKey"
        >
          <strong class="figure">
            {{
              test.done.value === rows.length
                ? "All in"
                : `${rows.length - test.done.value} missing`
            }}
          </strong>
          Nothing is typed here. <kbd>↑</kbd> goes back to the last child, a tap to any.
        </p>
        <slot name="after" />
      </div>
      <Pad
        v-if="pad && row"
        :name="row.child.name"
        :typed="entry.typed.value"
        :kind="board.kind"
        :of="board.of"
        :try-words="many ? `try ${cursor.column.value + 1}` : ''"
        :reasons="board.reasons"
        :variant="board.variants.length > 1 ? variants.nameOf('', row.variant) : ''"
        :wave="board.waves > 1 ? row.wave : null"
        :said="entry.problem.value?.message ?? entry.kept.value"
        @press="list.onPad"
        @type="entry.typed.value = $event"
      />
    </section>
  </LoadState>
</template>

<style scoped src="./capture.css"></style>
