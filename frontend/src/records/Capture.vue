<script setup lang="ts">
import { useMediaQuery } from "@vueuse/core";
import { computed, nextTick, ref, useTemplateRef, watch } from "vue";
import Lane from "../parts/Lane.vue";
import LoadState from "../parts/LoadState.vue";
import { useUndoKey } from "../parts/useUndoKey";
import StateMark from "../parts/StateMark.vue";
import { useLesson } from "../lessons/useLesson";
import CaptureKeys from "./CaptureKeys.vue";
import CapturePad from "./CapturePad.vue";
import ConditionsLine from "./ConditionsLine.vue";
import MeasureUnit from "./MeasureUnit.vue";
import { quickProblem } from "./check";
import { useCapture, type CaptureRow, type Conditions } from "./useCapture";

const { activity } = useLesson();
const { query, board, rows, put, setWave, confirmFlags, outbox } = useCapture(activity().id);

const active = ref(0);
const activeTry = ref(1);
/** After a save: down the class with the same try, or along the tries of one child. */
const along = ref(false);
const typed = ref("");
const problem = ref<{ message: string; accepted: string } | null>(null);
const chosen = ref(new Map<string, string>());
const ownConditions = ref(new Map<string, Conditions>());
const sticky = ref<string | null>(null);
const search = ref<string | null>(null);
const keysShown = ref(false);
const undone = ref("");
interface Step {
  pupilId: string;
  tryNumber: number;
  before: { typed: string; variant: string; wave: number } | null;
}
const steps = ref<Step[]>([]);
const touch = useMediaQuery("(pointer: coarse)");
const padAsked = ref<boolean | null>(null);
const pad = computed(() => padAsked.value ?? touch.value);

const field = useTemplateRef<HTMLInputElement[]>("field");
const finder = useTemplateRef<HTMLInputElement>("finder");
const row = computed(() => rows.value[active.value] ?? null);
const cell = computed(() => row.value?.tries.find((one) => one.number === activeTry.value) ?? null);
const many = computed(() => (board.value?.tries ?? 1) > 1);
const reasonKeys = computed(() => board.value?.reasons.map((reason) => reason.key) ?? []);
const recorded = computed(() => rows.value.filter((one) => one.state !== "empty").length);
/** The child whose score was asked about last and is not settled yet. */
const asked = ref<string | null>(null);
const askedRow = computed(() => rows.value.find((one) => one.child.pupil_id === asked.value));
const matches = computed(() => {
  const letters = (search.value ?? "").trim().toLowerCase();
  if (!letters) return [];
  return rows.value
    .map((one, index) => ({ index, name: one.child.name }))
    .filter((one) =>
      one.name
        .toLowerCase()
        .split(/\s+/)
        .some((part) => part.startsWith(letters)),
    )
    .slice(0, 6);
});

let placed = false;
watch(
  () => rows.value.length,
  (length) => {
    if (!length || placed) return;
    placed = true;
    const empty = rows.value.findIndex((one) => one.state === "empty");
    go(Math.max(0, empty));
  },
  { immediate: true },
);

/** What the rules refuse comes back to the cursor, unless the next child is being typed already. */
watch(
  () => rows.value.map((one) => one.refused?.body.id ?? ""),
  (now, before) => {
    const index = now.findIndex((id, place) => id && id !== before[place]);
    if (index < 0 || typed.value || rows.value[index]?.refused?.refusal?.status !== 422) return;
    go(index, rows.value[index]?.refused?.body.try_number ?? 1);
  },
);

watch(
  () =>
    rows.value.map((one) =>
      openFlags(one)
        .map((flag) => flag.code)
        .join(),
    ),
  (now, before) => {
    const index = now.findIndex((codes, place) => codes && codes !== before[place]);
    const one = rows.value[index];
    if (before.length && one && steps.value.some((step) => step.pupilId === one.child.pupil_id)) {
      asked.value = one.child.pupil_id;
    }
  },
);

/** Once chosen, a variant stays for the children after: today's choice for this child, else that. */
function variantOf(one: CaptureRow): string {
  const own = chosen.value.get(one.child.pupil_id);
  if (own) return own;
  if (one.state !== "empty") return one.variant;
  return sticky.value ?? one.variant;
}
function variantName(code: string): string {
  return board.value?.variants.find((one) => one.code === code)?.name ?? "";
}
function variantTitle(one: CaptureRow): string {
  const chosenName = variantName(variantOf(one));
  if (variantOf(one) === one.child.variant) return chosenName;
  return `${chosenName}; last time ${variantName(one.child.variant)}`;
}
function variantMark(code: string): string {
  return board.value?.variants.find((one) => one.code === code)?.key.toUpperCase() ?? "";
}

/** The words say already that a score is an estimate. */
function openFlags(one: CaptureRow) {
  return one.child.flags.filter((flag) => !flag.settled && flag.code !== "estimate");
}
function conditionsOf(one: CaptureRow): Conditions {
  return ownConditions.value.get(one.child.pupil_id) ?? {};
}
function setOwn(conditions: Conditions) {
  if (!row.value) return;
  ownConditions.value = new Map(ownConditions.value).set(row.value.child.pupil_id, conditions);
}

function go(index: number, tryNumber = activeTry.value) {
  active.value = Math.min(rows.value.length - 1, Math.max(0, index));
  const tries = row.value?.tries.length ?? 1;
  activeTry.value = Math.min(tries, Math.max(1, tryNumber));
  typed.value = "";
  problem.value = null;
  const refused = cell.value?.pending;
  if (refused?.refusal?.status === 422) {
    typed.value = refused.body.typed ?? "";
    problem.value = { message: refused.refusal.message, accepted: refused.refusal.accepted };
  }
  void focus();
}
function advance() {
  const tries = row.value?.tries.length ?? 1;
  if (along.value && activeTry.value < tries) go(active.value, activeTry.value + 1);
  else if (active.value < rows.value.length - 1) go(active.value + 1, along.value ? 1 : undefined);
  else if (!along.value && activeTry.value < tries) go(0, activeTry.value + 1);
  else {
    typed.value = "";
    problem.value = null;
  }
}
async function focus() {
  await nextTick();
  const input = field.value?.[0];
  input?.focus({ preventScroll: true });
  if (typed.value) input?.select(); // come back to be put right: typing replaces it
  document
    .getElementById(`child-${active.value}`)
    ?.scrollIntoView({ block: "center", behavior: "auto" });
}

function chooseVariant(code: string) {
  if (!row.value) return;
  chosen.value = new Map(chosen.value).set(row.value.child.pupil_id, code);
  sticky.value = code;
}
function toggleVariant() {
  const codes = board.value?.variants.map((one) => one.code) ?? [];
  if (!row.value || codes.length < 2) return;
  const next = codes[(codes.indexOf(variantOf(row.value)) + 1) % codes.length];
  if (next) chooseVariant(next);
}
function toggleWave() {
  const waves = board.value?.waves ?? 1;
  if (row.value && waves > 1) setWave(row.value.child.pupil_id, (row.value.wave % waves) + 1);
}

function before(one: CaptureRow, tryNumber: number): Step["before"] {
  const there = one.tries.find((each) => each.number === tryNumber);
  if (!there || there.state === "empty") return null;
  const last = there.pending?.refusal ? null : there.pending?.body;
  if (last?.withdrawn) return null;
  const text = last?.typed ?? there.score?.typed;
  return text ? { typed: text, variant: one.variant, wave: one.wave } : null;
}

/** Save what is typed and go on; a bad entry stays where it is. */
function save(text = typed.value, sure = false) {
  const one = row.value;
  if (!one || !board.value) return;
  const entry = text.trim();
  if (!entry) {
    advance();
    return;
  }
  const wrong = quickProblem(entry, board.value.quick_check, reasonKeys.value);
  if (wrong) {
    problem.value = { message: wrong, accepted: board.value.accepted };
    return;
  }
  const earlier = before(one, activeTry.value);
  steps.value.push({ pupilId: one.child.pupil_id, tryNumber: activeTry.value, before: earlier });
  put(one.child.pupil_id, activeTry.value, {
    typed: entry,
    variant: variantOf(one),
    wave: one.wave,
    why: earlier ? "typed again" : "",
    withdrawn: false,
    conditions: conditionsOf(one),
    sure,
  });
  undone.value = "";
  advance();
}

function undo() {
  const step = steps.value.pop();
  if (!step) {
    undone.value = "Nothing to undo.";
    return;
  }
  const index = rows.value.findIndex((one) => one.child.pupil_id === step.pupilId);
  const one = rows.value[index];
  if (!one) return;
  put(step.pupilId, step.tryNumber, {
    typed: step.before?.typed ?? "",
    variant: step.before?.variant ?? "",
    wave: step.before?.wave ?? null,
    why: "undone",
    withdrawn: step.before === null,
  });
  go(index, step.tryNumber);
  undone.value = `${one.child.name}: taken back.`;
}

function settle() {
  const one = askedRow.value;
  if (!one) return;
  asked.value = null;
  void confirmFlags(one.child);
}
function correctAsked() {
  const index = rows.value.findIndex((one) => one.child.pupil_id === asked.value);
  if (index < 0) return;
  asked.value = null;
  go(index);
}

function useMine(one: CaptureRow) {
  const { refused } = one;
  if (!refused?.refusal?.current) return;
  const { typed: text, variant, wave, why } = refused.body;
  put(
    one.child.pupil_id,
    refused.body.try_number ?? 1,
    { typed: text, variant, wave, why: why || "entered on two devices", withdrawn: false },
    refused.refusal.current.id,
  );
}
function letGo(one: CaptureRow) {
  if (one.refused) outbox.dismiss(one.refused.body.id);
  void query.refetch();
  void focus();
}

function openSearch() {
  search.value = "";
  void nextTick(() => finder.value?.focus());
}
function pick(index: number | undefined) {
  search.value = null;
  if (index !== undefined) go(index);
  else void focus();
}

/** Keys that mean something while nothing is typed; false when the key is a letter of a score. */
function onEmptyKey(key: string): boolean {
  const letter = key.toLowerCase();
  const variant = board.value?.variants.find((one) => one.key === letter);
  // Shot by shot, x is a hit: the first shot of a row waits for a second key.
  if (board.value?.kind === "hits" && letter === "x") return false;
  if (reasonKeys.value.includes(letter)) save(letter);
  else if (variant) chooseVariant(variant.code);
  else if (letter === "w") toggleWave();
  else if (key === "!") settle();
  else if (key === "<") correctAsked();
  else if (key === "/") openSearch();
  else return false;
  return true;
}
function onKey(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const key = event.key;
  const empty = !typed.value;
  const at = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[key];
  const sideways = { ArrowRight: 1, ArrowLeft: -1 }[key];
  if (key === "Enter") save();
  else if (at) go(active.value + at);
  else if (sideways && empty && many.value) go(active.value, activeTry.value + sideways);
  else if (key === "Home" && empty) go(0);
  else if (key === "End" && empty) go(rows.value.length - 1);
  else if (key === "Escape") {
    typed.value = "";
    problem.value = null;
  } else if (key === "?") keysShown.value = !keysShown.value;
  else if (!(empty && key.length === 1 && onEmptyKey(key))) return;
  event.preventDefault();
}
function onPad(key: string) {
  if (key === "save") save();
  else if (key === "undo") undo();
  else if (key === "back") typed.value = typed.value.slice(0, -1);
  else if (key === "variant") toggleVariant();
  else if (key === "wave") toggleWave();
  else if (reasonKeys.value.includes(key)) save(key);
  else typed.value += key;
}
useUndoKey(undo);
</script>

<template>
  <LoadState :query="query">
    <section v-if="board" class="capture" :class="{ 'with-pad': pad }">
      <div class="side">
        <div class="bar no-print">
          <span class="figure count" data-testid="count">{{ recorded }} / {{ rows.length }}</span>
          <span v-if="board.variants.length > 1" class="legend">
            <span v-for="one in board.variants" :key="one.code">
              <kbd>{{ one.key.toUpperCase() }}</kbd> {{ one.name }}
            </span>
          </span>
          <span v-if="many" class="legend" role="group" aria-label="Tries">
            <button type="button" class="tag" :aria-pressed="!along" @click="along = false">
              down the class
            </button>
            <button type="button" class="tag" :aria-pressed="along" @click="along = true">
              all tries of one child
            </button>
            <span class="quiet">{{ board.merge }} of {{ board.tries }} counts</span>
          </span>
          <span class="space" />
          <v-btn variant="text" @click="openSearch"><kbd>/</kbd>&nbsp;Find</v-btn>
          <v-btn variant="text" @click="undo">Undo</v-btn>
          <v-btn variant="text" :aria-pressed="pad" @click="padAsked = !pad">Pad</v-btn>
          <v-btn variant="text" :aria-expanded="keysShown" @click="keysShown = !keysShown">
            <kbd>?</kbd>&nbsp;Keys
          </v-btn>
        </div>
        <p v-if="outbox.signedOut.value" role="alert" class="board refused-note">
          You are signed out. What you type is kept on this device and sent after you sign in.
          <RouterLink :to="{ name: 'sign-in' }">Sign in</RouterLink>
        </p>
        <CaptureKeys v-if="keysShown" :board="board" />
        <ConditionsLine
          :board="board"
          :child="row?.child.name ?? null"
          :own="row ? conditionsOf(row) : {}"
          @own="setOwn"
        />
        <div v-if="search !== null" class="board find">
          <label>
            Find a child
            <input
              ref="finder"
              v-model="search"
              autocomplete="off"
              @keydown.enter.prevent="pick(matches[0]?.index)"
              @keydown.esc.prevent="pick(undefined)"
            />
          </label>
          <button
            v-for="match in matches"
            :key="match.index"
            type="button"
            @click="pick(match.index)"
          >
            {{ match.name }}
          </button>
          <span v-if="search && !matches.length" class="quiet">No name begins so.</span>
        </div>
        <p class="sr-only" role="status">{{ undone }}</p>
        <ol class="children">
          <li
            v-for="(one, index) in rows"
            :id="`child-${index}`"
            :key="one.child.pupil_id"
            class="child"
            :class="{ active: index === active, tries: many }"
            @click="index === active || go(index)"
          >
            <span class="number figure">{{ one.child.number }}</span>
            <span class="name">
              <button v-if="index !== active" type="button" tabindex="-1" @click.stop="go(index)">
                {{ one.child.name }}
              </button>
              <strong v-else>{{ one.child.name }}</strong>
              <span v-if="one.child.medical_note" class="note" :title="one.child.medical_note">
                ✚<span class="sr-only">medical note: {{ one.child.medical_note }}</span>
              </span>
            </span>
            <span class="wave quiet" :class="{ none: board.waves < 2 }" :title="`Wave ${one.wave}`">
              <span class="sr-only">Wave </span>{{ one.wave }}
            </span>
            <span
              class="variant"
              :class="{
                other: variantOf(one) !== one.child.variant,
                none: board.variants.length < 2,
              }"
              :title="variantTitle(one)"
            >
              {{ variantMark(variantOf(one)) }}
            </span>
            <span class="score figure" :class="{ wide: many }">
              <template v-if="many">
                <button
                  v-for="one_try in one.tries"
                  v-show="index !== active || one_try.number !== activeTry"
                  :key="one_try.number"
                  type="button"
                  class="try"
                  tabindex="-1"
                  :title="`Try ${one_try.number}`"
                  @click.stop="go(index, one_try.number)"
                >
                  {{ one_try.shown || "–" }}
                </button>
              </template>
              <input
                v-if="index === active"
                ref="field"
                v-model="typed"
                :inputmode="pad ? 'none' : 'text'"
                autocomplete="off"
                autocapitalize="off"
                spellcheck="false"
                maxlength="40"
                enterkeyhint="next"
                :aria-label="
                  many ? `Try ${activeTry} of ${one.child.name}` : `Score of ${one.child.name}`
                "
                :aria-invalid="problem !== null"
                :aria-describedby="problem ? 'problem' : undefined"
                :placeholder="cell?.shown || '–'"
                @keydown="onKey"
              />
              <template v-else-if="!many">{{ one.shown || "–" }}</template>
            </span>
            <StateMark :state="one.state" />
            <Lane
              class="lane-cell"
              :lane="one.child.lane"
              :label="`Lane of ${one.child.name}: ${one.child.words.join(', ') || 'no score today'}`"
            />
            <span class="words">
              <span v-if="many && one.child.score && one.child.score.value !== null" class="lead">
                {{ board.merge }} {{ one.shown }} ·
              </span>
              <template v-for="(words, place) in one.child.words" :key="place">
                <span v-if="place" class="dot"> · </span>
                <span :class="{ lead: place === 0 }">{{ words }}</span>
              </template>
              <span v-if="one.child.target" class="quiet"> · aim {{ one.child.target }}</span>
              <span v-for="flag in openFlags(one)" :key="flag.code">
                <span class="dot"> · </span><span class="flag">? {{ flag.words }}</span>
              </span>
            </span>
            <p
              v-if="index === active && problem"
              id="problem"
              role="alert"
              class="problem"
              data-testid="problem"
            >
              <strong>{{ problem.message }}</strong> {{ problem.accepted }}
              <span
                v-if="cell?.pending?.refusal?.choices.length || cell?.pending?.refusal?.sure"
                class="choices"
              >
                <v-btn
                  v-if="cell.pending.refusal.sure"
                  size="small"
                  color="primary"
                  @click.stop="save(typed, true)"
                >
                  It is right
                </v-btn>
                <v-btn
                  v-for="choice in cell.pending.refusal.choices"
                  :key="choice.typed"
                  size="small"
                  variant="outlined"
                  @click.stop="save(choice.typed)"
                >
                  {{ choice.words }}
                </v-btn>
              </span>
            </p>
            <p v-else-if="one.refused?.refusal" role="alert" class="problem">
              <template v-if="one.refused.refusal.current">
                <strong>{{ one.refused.refusal.current.by }}</strong> entered
                {{ one.refused.refusal.current.typed }} on another device; you typed
                {{ one.refused.body.typed }}.
                <v-btn size="small" variant="outlined" @click.stop="letGo(one)">
                  Keep {{ one.refused.refusal.current.typed }}
                </v-btn>
                <v-btn size="small" color="primary" @click.stop="useMine(one)">
                  Use {{ one.refused.body.typed }}
                </v-btn>
              </template>
              <template v-else>
                <strong>{{ one.refused.refusal.message }}</strong>
                {{ one.refused.refusal.accepted }}
                <v-btn size="small" variant="outlined" @click.stop="letGo(one)">Let it go</v-btn>
              </template>
            </p>
            <p v-if="one.child.pupil_id === asked && openFlags(one).length" class="asked">
              <strong>{{ one.child.score?.shown }}?</strong>
              {{
                openFlags(one)
                  .map((flag) => flag.words)
                  .join(" ")
              }}
              <v-btn size="small" color="primary" @click.stop="settle">
                <kbd>!</kbd>&nbsp;It is right
              </v-btn>
              <v-btn size="small" variant="outlined" @click.stop="correctAsked">
                <kbd>&lt;</kbd>&nbsp;Correct it
              </v-btn>
            </p>
            <p
              v-if="one.child.score && /hand|step|pace|span/.test(one.child.score.typed)"
              class="asked"
            >
              <MeasureUnit
                :pupil-id="one.child.pupil_id"
                :name="one.child.name"
                :typed="one.child.score.typed"
                :activity-id="board.activity_id"
              />
            </p>
          </li>
        </ol>
        <p class="after no-print">
          <v-btn color="primary" size="large" :to="{ name: 'check', query: $route.query }"
            >Check the scores</v-btn
          >
        </p>
      </div>
      <CapturePad
        v-if="pad && row"
        :name="row.child.name"
        :typed="typed"
        :kind="board.kind"
        :of="board.of"
        :try-words="many ? `try ${activeTry}` : ''"
        :reasons="board.reasons"
        :variant="board.variants.length > 1 ? variantName(variantOf(row)) : ''"
        :wave="board.waves > 1 ? row.wave : null"
        :problem="problem ? `${problem.message} ${problem.accepted}` : ''"
        @press="onPad"
        @type="typed = $event"
      />
    </section>
  </LoadState>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 14px;
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--floor);
  padding: 4px 0;
}
.count {
  font-size: 1.7rem;
}
.legend {
  display: flex;
  gap: 14px;
}
.space {
  flex: 1;
}
.find {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  margin-bottom: 10px;
}
.find input,
.find button {
  min-height: 48px;
  border: 2px solid var(--line);
  border-radius: 4px;
  padding: 0 12px;
  background: var(--board);
}
.refused-note {
  border-color: rgb(var(--v-theme-warning));
  margin-bottom: 8px;
}
.children {
  list-style: none;
  padding: 0;
}
.child {
  display: grid;
  grid-template-columns: 34px 190px 20px 22px 92px 24px minmax(200px, 1fr) minmax(250px, 330px);
  align-items: center;
  gap: 0 8px;
  min-height: 44px;
  padding: 0 8px;
  border-bottom: 1px solid var(--rule);
}
.child.active {
  background: var(--board);
  outline: 3px solid var(--line);
  outline-offset: -1px;
  border-radius: 4px;
  min-height: 58px;
}
.number {
  font-size: 1.35rem;
  color: var(--chalk);
  text-align: right;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name button {
  min-height: 44px;
  text-align: left;
  font: inherit;
  color: inherit;
}
.active .name {
  font-size: 1.1rem;
}
.note {
  color: var(--pennant);
  margin-left: 4px;
}
.wave,
.variant {
  font-family: var(--figure);
  font-weight: 600;
  font-size: 1.1rem;
  text-align: center;
}
.variant {
  border: 1.5px solid var(--chalk);
  border-radius: 3px;
  line-height: 1.3;
}
.variant.other {
  border-color: var(--pennant);
  border-width: 3px;
}
.score {
  font-size: 1.6rem;
  text-align: right;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.score input {
  width: 100%;
  height: 48px;
  text-align: right;
  font: inherit;
  font-size: 2.1rem;
  border: 2px solid var(--line);
  border-radius: 4px;
  padding: 0 8px;
  background: var(--floor);
  color: var(--ink);
}
.score input[aria-invalid="true"] {
  border-color: rgb(var(--v-theme-error));
  border-width: 3px;
}
.words {
  font-size: 0.92rem;
  line-height: 1.25;
}
.lead {
  font-weight: 700;
}
.flag {
  color: rgb(var(--v-theme-warning));
  font-weight: 700;
}
.problem,
.asked {
  grid-column: 2 / -1;
  padding: 4px 0 8px;
  font-weight: 400;
}
.asked {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
}
.legend .tag {
  min-height: 36px;
}
.legend .tag[aria-pressed="true"] {
  border-color: var(--line);
  font-weight: 700;
}
.none {
  visibility: hidden;
}
.child.tries {
  grid-template-columns: 34px 170px 20px 22px 232px 24px minmax(160px, 1fr) minmax(220px, 280px);
}
.with-pad .child.tries {
  grid-template-columns: 30px 130px 18px 22px 200px 24px 1fr;
}
.score.wide {
  display: flex;
  gap: 4px;
}
.try {
  flex: 1;
  min-width: 44px;
  min-height: 44px;
  font-size: 1.15rem;
  color: var(--ink);
  border-bottom: 2px solid var(--rule);
}
.score.wide input {
  flex: 1.4;
  width: 90px;
  font-size: 1.6rem;
}
.choices {
  display: inline-flex;
  gap: 8px;
}
.after {
  margin-top: 18px;
  text-align: right;
}
.with-pad {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: 16px;
}
.with-pad .child {
  min-height: 52px;
  grid-template-columns: 30px 150px 18px 22px 78px 24px 1fr;
}
.with-pad .words {
  grid-column: 2 / -1;
  padding-bottom: 6px;
}
.with-pad .legend,
.with-pad .bar kbd {
  display: none;
}
@media (max-width: 700px) {
  .with-pad {
    grid-template-columns: 1fr;
    padding-bottom: 400px;
  }
  .with-pad .child,
  .child {
    grid-template-columns: 24px 1fr 18px 22px 64px 22px;
  }
  .bar {
    gap: 0;
    flex-wrap: wrap;
  }
  .with-pad .child {
    scroll-margin: 60px 0 440px; /* the active child stays above the pad */
  }
  .lane-cell,
  .words {
    grid-column: 1 / -1;
  }
  .child:not(.active) .lane-cell {
    display: none;
  }
}
</style>
