<script setup lang="ts">
import { useEventListener, useMediaQuery } from "@vueuse/core";
import { computed, nextTick, ref, useTemplateRef, watch } from "vue";
import Lane from "../parts/Lane.vue";
import LoadState from "../parts/LoadState.vue";
import StateMark from "../parts/StateMark.vue";
import { useLesson } from "../lessons/useLesson";
import CapturePad from "./CapturePad.vue";
import { quickProblem } from "./check";
import { useCapture, type CaptureRow } from "./useCapture";

const { activity } = useLesson();
const { query, board, rows, put, setWave, outbox } = useCapture(activity().id);

const active = ref(0);
const typed = ref("");
const problem = ref<{ message: string; accepted: string } | null>(null);
const chosen = ref(new Map<string, string>());
const sticky = ref<string | null>(null);
const search = ref<string | null>(null);
const keysShown = ref(false);
const undone = ref("");
interface Step {
  pupilId: string;
  before: { typed: string; variant: string; wave: number } | null;
}
const steps = ref<Step[]>([]);
const touch = useMediaQuery("(pointer: coarse)");
const padAsked = ref<boolean | null>(null);
const pad = computed(() => padAsked.value ?? touch.value);

const field = useTemplateRef<HTMLInputElement[]>("field");
const finder = useTemplateRef<HTMLInputElement>("finder");
const row = computed(() => rows.value[active.value] ?? null);
const reasonKeys = computed(() => board.value?.reasons.map((reason) => reason.key) ?? []);
const recorded = computed(() => rows.value.filter((one) => one.state !== "empty").length);
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

function go(index: number) {
  active.value = Math.min(rows.value.length - 1, Math.max(0, index));
  typed.value = "";
  problem.value = null;
  const refusal = row.value?.pending?.refusal;
  if (refusal && refusal.status === 422) {
    typed.value = row.value?.pending?.body.typed ?? "";
    problem.value = { message: refusal.message, accepted: refusal.accepted };
  }
  void focus();
}
async function focus() {
  await nextTick();
  const input = field.value?.[0];
  input?.focus({ preventScroll: true });
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

function before(one: CaptureRow): Step["before"] {
  if (one.state === "empty") return null;
  const last = one.pending?.refusal ? null : one.pending?.body;
  if (last?.withdrawn) return null;
  const text = last?.typed ?? one.child.score?.typed;
  return text ? { typed: text, variant: one.variant, wave: one.wave } : null;
}

/** Save what is typed and go to the next child; a bad entry stays where it is. */
function save(text = typed.value) {
  const one = row.value;
  if (!one || !board.value) return;
  const entry = text.trim();
  if (!entry) {
    go(active.value + 1);
    return;
  }
  const wrong = quickProblem(entry, board.value.quick_check, reasonKeys.value);
  if (wrong) {
    problem.value = { message: wrong, accepted: board.value.accepted };
    void focus();
    return;
  }
  steps.value.push({ pupilId: one.child.pupil_id, before: before(one) });
  put(one.child.pupil_id, {
    typed: entry,
    variant: variantOf(one),
    wave: one.wave,
    why: one.state === "empty" ? "" : "typed again",
    withdrawn: false,
  });
  undone.value = "";
  if (active.value === rows.value.length - 1) {
    typed.value = "";
    problem.value = null;
  } else go(active.value + 1);
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
  put(step.pupilId, {
    typed: step.before?.typed ?? "",
    variant: step.before?.variant ?? "",
    wave: step.before?.wave ?? null,
    why: "undone",
    withdrawn: step.before === null,
  });
  go(index);
  undone.value = `${one.child.name}: taken back.`;
}

function useMine(one: CaptureRow) {
  const { pending } = one;
  if (!pending?.refusal?.current) return;
  const { typed: text, variant, wave, why } = pending.body;
  put(
    one.child.pupil_id,
    { typed: text, variant, wave, why: why || "entered on two devices", withdrawn: false },
    pending.refusal.current.id,
  );
}
function letGo(one: CaptureRow) {
  if (one.pending) outbox.dismiss(one.pending.body.id);
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

function onKey(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const key = event.key;
  const at = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[key];
  if (key === "Enter") save();
  else if (at) go(active.value + at);
  else if (key === "Home" && !typed.value) go(0);
  else if (key === "End" && !typed.value) go(rows.value.length - 1);
  else if (key === "Escape") {
    typed.value = "";
    problem.value = null;
  } else if (key === "/") openSearch();
  else if (key === "?") keysShown.value = !keysShown.value;
  else if (!typed.value && key.length === 1) {
    const letter = key.toLowerCase();
    const variant = board.value?.variants.find((one) => one.key === letter);
    if (reasonKeys.value.includes(letter)) save(letter);
    else if (variant) chooseVariant(variant.code);
    else if (letter === "w") toggleWave();
    else return;
  } else return;
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
useEventListener("keydown", (event) => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
    event.preventDefault();
    undo();
  }
});
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
        <div v-if="keysShown" class="board keys">
          <span><kbd>42</kbd> <kbd>Enter</kbd> save, next child</span>
          <span v-for="reason in board.reasons" :key="reason.key">
            <kbd>{{ reason.key }}</kbd> {{ reason.words }}
          </span>
          <span><kbd>~</kbd> after the number: an estimate</span>
          <span v-for="one in board.variants" :key="one.code">
            <kbd>{{ one.key }}</kbd> {{ one.name }}, kept for the next child
          </span>
          <span v-if="board.waves > 1"><kbd>w</kbd> the other wave</span>
          <span><kbd>↑</kbd> <kbd>↓</kbd> move</span>
          <span><kbd>/</kbd> find by letters</span>
          <span><kbd>Ctrl Z</kbd> undo</span>
          <span><kbd>Esc</kbd> clear what is typed</span>
        </div>
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
            :class="{ active: index === active }"
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
            <span v-if="board.waves > 1" class="wave quiet" :title="`Wave ${one.wave}`">
              <span class="sr-only">Wave </span>{{ one.wave }}
            </span>
            <span
              class="variant"
              :class="{ other: variantOf(one) !== one.child.variant }"
              :title="variantTitle(one)"
            >
              {{ variantMark(variantOf(one)) }}
            </span>
            <span class="score figure">
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
                :aria-label="`Score of ${one.child.name}`"
                :aria-invalid="problem !== null"
                :aria-describedby="problem ? 'problem' : undefined"
                :placeholder="one.shown || '–'"
                @keydown="onKey"
              />
              <template v-else>{{ one.shown || "–" }}</template>
            </span>
            <StateMark :state="one.state" />
            <Lane
              class="lane-cell"
              :lane="one.child.lane"
              :label="`Lane of ${one.child.name}: ${one.child.words.join(', ') || 'no score today'}`"
            />
            <span class="words">
              <template v-for="(words, place) in one.child.words" :key="place">
                <span v-if="place" class="dot"> · </span>
                <span :class="{ lead: place === 0 }">{{ words }}</span>
              </template>
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
              <span v-if="one.pending?.refusal?.choices.length" class="choices">
                <v-btn
                  v-for="choice in one.pending.refusal.choices"
                  :key="choice.typed"
                  size="small"
                  variant="outlined"
                  @click.stop="save(choice.typed)"
                >
                  {{ choice.words }}
                </v-btn>
              </span>
            </p>
            <p v-else-if="one.pending?.refusal" role="alert" class="problem">
              <template v-if="one.pending.refusal.current">
                <strong>{{ one.pending.refusal.current.by }}</strong> entered
                {{ one.pending.refusal.current.typed }} on another device; you typed
                {{ one.pending.body.typed }}.
                <v-btn size="small" variant="outlined" @click.stop="letGo(one)">
                  Keep {{ one.pending.refusal.current.typed }}
                </v-btn>
                <v-btn size="small" color="primary" @click.stop="useMine(one)">
                  Use {{ one.pending.body.typed }}
                </v-btn>
              </template>
              <template v-else>
                <strong>{{ one.pending.refusal.message }}</strong>
                {{ one.pending.refusal.accepted }}
                <v-btn size="small" variant="outlined" @click.stop="letGo(one)">Let it go</v-btn>
              </template>
            </p>
          </li>
        </ol>
        <p class="after no-print">
          <v-btn color="primary" size="large" :to="{ name: 'check' }">Check the scores</v-btn>
        </p>
      </div>
      <CapturePad
        v-if="pad && row"
        :name="row.child.name"
        :typed="typed"
        :reasons="board.reasons"
        :variant="board.variants.length > 1 ? variantName(variantOf(row)) : ''"
        :wave="board.waves > 1 ? row.wave : null"
        :problem="problem ? `${problem.message} ${problem.accepted}` : ''"
        @press="onPad"
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
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 22px;
  margin-bottom: 10px;
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
.problem {
  grid-column: 2 / -1;
  padding: 4px 0 8px;
  color: rgb(var(--v-theme-error));
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
  grid-template-columns: 1fr 320px;
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
  .lane-cell,
  .words {
    grid-column: 1 / -1;
  }
  .child:not(.active) .lane-cell {
    display: none;
  }
}
</style>
