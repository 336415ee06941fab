<script setup lang="ts">
/** A lesson built of blocks against the clock. Every change is kept at once and can be undone. */
import { t } from "../../messages/lessons";
import { BLOCKS } from "../../api/vocabulary";
import { ref } from "vue";
import { answer, client } from "../../api/client";
import LoadState from "../../parts/LoadState.vue";
import { minutes } from "../../parts/time/minutes";
import { useUndoKey } from "../../parts/form/useUndoKey";
import { useClass } from "../../people/useClass";
import PlanBlocks from "./PlanBlocks.vue";
import PlanProposal from "./PlanProposal.vue";
import PlanTemplates from "./PlanTemplates.vue";
import { useLesson } from "../useLesson";
import { entriesOf, usePlan, type Page } from "./usePlan";

const { lesson } = useLesson();
const lessonId = lesson.value?.id ?? "";
const params = { path: { lesson_id: lessonId } };
const plan = usePlan(lessonId);
const { query, page, draft, share, whole, open, problem, saving, unsaved, canUndo } = plan;
const { send, change, undo, add, addWithPulse } = plan;
const proposal = ref<{ title: string; page: Page } | null>(null);
const childNames = useClass(lesson.value?.class_id ?? "");

async function propose(what: "order" | "fit", title: string) {
  problem.value = "";
  try {
    const body = { based_on: page.value?.revision ?? 0, blocks: draft.value };
    const proposed =
      what === "order"
        ? await answer(client.POST("/api/lessons/{lesson_id}/plan/order", { params, body }))
        : await answer(client.POST("/api/lessons/{lesson_id}/plan/fit", { params, body }));
    const now = page.value ? entriesOf(page.value) : [];
    const same = JSON.stringify(entriesOf(proposed)) === JSON.stringify(now);
    if (same)
      problem.value = what === "order" ? t("theOrderIsAlreadyGood") : t("everythingAlreadyFits");
    else proposal.value = { title, page: proposed };
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
function takeProposal() {
  if (proposal.value) change(entriesOf(proposal.value.page));
  proposal.value = null;
  open.value = null;
}
useUndoKey(undo, { besideFields: true });
function print() {
  window.print();
}
</script>

<template>
  <LoadState :query="query">
    <section v-if="page" class="planner">
      <div class="main">
        <div
          class="bar"
          role="img"
          :aria-label="
            t('plannedOfMinutesMinutes', {
              planned: minutes(page.total_seconds),
              minutes: page.minutes,
            })
          "
        >
          <span
            class="fill"
            :class="{ over: page.left_seconds < 0 }"
            :style="{ width: `${(share / 1.25) * 100}%` }"
          />
          <span class="end" :style="{ left: '80%' }" />
        </div>
        <p class="sum">
          <i18n-t keypath="lessons.totalOfMinutesMinPlannedLeft" scope="global"
            ><template #minutes>{{ page.minutes }}</template
            ><template #total
              ><b class="figure" data-testid="total">{{ minutes(page.total_seconds) }}</b></template
            ><template #left
              ><strong :class="{ problem: page.left_seconds < 0 }">{{
                page.left_seconds < 0
                  ? t("timeTooLong", { time: minutes(-page.left_seconds) })
                  : t("timeLeft", { time: minutes(page.left_seconds) })
              }}</strong></template
            ><template #state
              ><span class="quiet no-print" role="status">
                {{
                  saving
                    ? t("saving")
                    : !whole
                      ? t("chooseTheNewTestToSave")
                      : unsaved
                        ? t("notSavedYet")
                        : t("saved")
                }}
              </span></template
            ></i18n-t
          >
        </p>
        <PlanBlocks :plan="plan" />
        <div v-if="problem" class="line">
          <p role="alert" class="problem">{{ problem }}</p>
          <v-btn v-if="unsaved && !saving" variant="outlined" @click="send">{{
            t("tryAgain")
          }}</v-btn>
        </div>
        <div class="line no-print" role="group" :aria-label="t('addABlock')">
          <b>{{ t("add") }}</b>
          <v-btn
            v-for="kind in BLOCKS"
            :key="kind.code"
            variant="outlined"
            size="small"
            @click="add(kind.code)"
          >
            {{ kind.words }}
          </v-btn>
          <v-btn variant="outlined" size="small" @click="addWithPulse">
            {{ t("movementWithAPulseCount") }}
          </v-btn>
        </div>
      </div>
      <aside class="stack">
        <div class="stack no-print">
          <v-btn color="primary" size="large" :to="{ name: 'hall' }">{{ t("goToTheHall") }}</v-btn>
          <div class="line">
            <v-btn variant="outlined" :disabled="!canUndo" @click="undo">{{ t("undo") }}</v-btn>
            <v-btn variant="outlined" @click="propose('order', t('suggestedOrder'))">{{
              t("putInAGoodOrder")
            }}</v-btn>
            <v-btn variant="outlined" @click="propose('fit', t('fittedToTheTime'))">{{
              t("fitToTheTime")
            }}</v-btn>
            <v-btn variant="outlined" @click="print">{{ t("print") }}</v-btn>
          </div>
        </div>
        <section v-if="page.warnings.some((one) => one.block < 0)" class="board told">
          <h2>{{ t("check") }}</h2>
          <p v-for="one in page.warnings.filter((w) => w.block < 0)" :key="one.words">
            {{ one.words }}
          </p>
        </section>
        <section class="board">
          <h2>{{ t("forNChild", page.children) }}</h2>
          <p v-if="!page.kit.length" class="quiet">{{ t("theseTestsNeedNoKit") }}</p>
          <ul class="kit">
            <li v-for="item in page.kit" :key="item.item">
              <b class="figure">{{ item.number }} ×</b> {{ item.item }}
            </li>
          </ul>
          <p>
            <i18n-t keypath="lessons.helpersStrong" scope="global"
              ><template #strong
                ><b class="figure">{{ page.helpers }}</b></template
              ></i18n-t
            >
          </p>
          <p v-if="page.bottleneck">
            <i18n-t keypath="lessons.longestBlock" scope="global"
              ><template #block
                ><strong>{{ page.bottleneck }}</strong></template
              ></i18n-t
            >
          </p>
          <p v-if="page.saves">{{ page.saves }}</p>
        </section>
        <PlanTemplates
          class="no-print"
          :lesson-id="lessonId"
          @propose="proposal = $event"
          @problem="problem = $event"
        />
        <section class="print-only">
          <h2>{{ t("children") }}</h2>
          <ol class="listed">
            <li v-for="one in childNames.data.value?.pupils" :key="one.id">{{ one.name }}</li>
          </ol>
          <p v-for="note in lesson?.medical_notes" :key="note.pupil_id">
            ✚ {{ note.name }}: {{ note.note }}
          </p>
        </section>
      </aside>
      <PlanProposal v-model="proposal" :page="page" @take="takeProposal" />
    </section>
  </LoadState>
</template>

<style scoped>
.planner {
  display: grid;
  grid-template-columns: minmax(0, 8fr) minmax(0, 4fr);
  gap: var(--gap-16);
  align-items: start;
}
.bar {
  position: relative;
  height: 26px;
  border-top: var(--line-3) solid var(--line);
  border-bottom: var(--line-3) solid var(--line);
}
.fill {
  position: absolute;
  inset: 3px auto 3px 0;
  background: var(--line);
}
.fill.over {
  background: var(--pennant);
}
.end {
  position: absolute;
  top: -8px;
  bottom: -8px;
  border-left: var(--line-3) solid var(--ink);
}
.sum {
  margin: var(--gap-8) 0 var(--gap-8);
}
.sum b {
  font-size: var(--type-24);
}
.listed {
  columns: 2;
}
.told {
  border-left: var(--bar) solid var(--pennant);
}
.kit {
  list-style: none;
  padding: 0;
}
.kit b {
  font-size: var(--type-24);
}
.print-only {
  display: none;
}
@media (max-width: 860px) {
  .planner {
    grid-template-columns: 1fr;
  }
}
/* The whole plan with the children's list on one page. */
@media print {
  .planner {
    gap: var(--gap-8);
    font-size: var(--type-14);
    line-height: 1.3;
  }
  .bar {
    display: none;
  }
  .sum {
    margin: 0 0 var(--gap-4);
  }
  aside {
    grid-template-columns: 1fr 1fr;
    gap: var(--gap-8);
  }
  aside .board {
    padding: var(--gap-4) var(--gap-8);
    border-width: var(--line-2);
  }
  aside .told {
    border-left-width: var(--bar);
  }
  aside h2 {
    font-size: var(--type-18);
    margin: 0;
  }
  .kit {
    columns: 2;
  }
  .kit b {
    font-size: var(--type-14);
  }
  .print-only {
    display: block;
    grid-column: 1 / -1;
  }
  .listed {
    columns: 4;
    margin-bottom: var(--gap-4);
  }
}
</style>
