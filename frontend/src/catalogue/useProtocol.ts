/** A protocol as it is typed into the editor, and as it is sent. */
import { computed, reactive, ref } from "vue";
import type { Schemas } from "../api/client";
import { KINDS } from "../api/vocabulary";
import { startingNoise } from "./words";

type Protocol = Schemas["Protocol"];

/** A number field that is emptied means none. */
function number(value: unknown): number | null {
  return value === "" || value === null || value === undefined ? null : Number(value);
}
function asLines(text: string): string[] {
  return text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
}
/** `isNew`: made from scratch, neither a copy nor the next version of another. */
export function useProtocol(isNew: boolean) {
  /** Lists are edited as lines of text, lengths of conditions as typed. */
  const lines = reactive({ say: "", counts: "", does_not_count: "", cautions: "" });
  const conditions = reactive<Record<string, string>>({});
  const name = ref("");
  const family = ref("timed_reps");
  const why = ref("");
  const form = reactive({
    kind: "count",
    better: "up",
    unit: "reps",
    resolution: 1,
    lowest: 0,
    highest: 200,
    waves: 1,
    tries: 1,
    merge: "best",
    default_typical_error: 2,
    places: ["hall"],
    loads: [] as string[],
    setup_seconds: 60,
    trial_seconds: 60,
    changeover_seconds: 20,
    from_age: 4,
    to_age: 11,
    effort: "high",
    variants: [] as Schemas["VariantEntry"][],
    kit: [] as Schemas["KitItem"][],
  } as Protocol);

  const variants = computed({
    get: () => form.variants ?? [],
    set: (rows) => (form.variants = rows),
  });
  const kit = computed({ get: () => form.kit ?? [], set: (rows) => (form.kit = rows) });

  /** As a test has it, under that name. */
  function fill(card: { family: string; protocol: object }, called: string) {
    const protocol = JSON.parse(JSON.stringify(card.protocol)) as Protocol;
    name.value = called;
    family.value = card.family;
    Object.assign(form, protocol);
    for (const key of Object.keys(lines) as (keyof typeof lines)[]) {
      lines[key] = (protocol[key] ?? []).join("\n");
    }
    for (const [code, value] of Object.entries(protocol.conditions ?? {})) {
      conditions[code] = code.endsWith("_mm") ? `${value}mm` : String(value);
    }
  }
  const units = computed<readonly string[]>(
    () => KINDS.find((one) => one.code === form.kind)?.units ?? ["reps"],
  );
  /** Another kind of score was chosen: its units, and what a test of it varies by to begin with. */
  function kindChosen() {
    if (!units.value.includes(form.unit)) form.unit = units.value[0] ?? "reps";
    form.bounds_by_age = [];
    if (isNew) Object.assign(form, startingNoise(form.kind, form.unit));
  }

  const asked = computed<Protocol>(() => ({
    ...form,
    cap: number(form.cap),
    seconds: number(form.seconds),
    of: number(form.of),
    at_once: number(form.at_once),
    most_a_second: number(form.most_a_second),
    error_share: number(form.error_share),
    target_mm: number(form.target_mm),
    say: asLines(lines.say),
    counts: asLines(lines.counts),
    does_not_count: asLines(lines.does_not_count),
    cautions: asLines(lines.cautions),
    conditions: Object.fromEntries(Object.entries(conditions).filter(([, value]) => value.trim())),
  }));

  return {
    name,
    family,
    why,
    form,
    lines,
    conditions,
    variants,
    kit,
    units,
    asked,
    fill,
    kindChosen,
  };
}
