/**
 * The conductor's clock over a lesson's timeline, as values. Cues and segments come from the rules;
 * here they are only shifted by what was lengthened or shortened on the spot.
 */
import type { Schemas } from "../../../api/client";
import { goOn, offset, passed as cuesPassed, stand } from "../../../parts/time/anchored";
import { toNext } from "../../../parts/time/useLooks";

export { clockShown } from "../../../parts/time/clockShown";

export type Timeline = Pick<Schemas["TimelinePage"], "segments" | "cues" | "blocks" | "total_ms">;
export type Segment = Schemas["TimelineSegment"];
export type Cue = Schemas["TimelineCue"];
export type Conduct = Schemas["ConductState"];

/** Cues that belong to the end of their segment and move with it. */
const OF_THE_END = new Set(["last", "count"]);
/** Nothing is shortened to less. */
const LEAST_MS = 5_000;

export function begin(runId: string, planRevision: number, at: number): Conduct {
  return {
    run_id: runId,
    revision: 1,
    plan_revision: planRevision,
    anchor_ms: Math.floor(at),
    paused_ms: null,
    going_from_ms: 0,
    pauses: [],
    edits: [],
    swaps: [],
    done: [],
    wall: "clock",
    ended: false,
  };
}

/** The timeline as it stands after what was decided on the spot. */
export function standing(plan: Timeline, state: Conduct | null): Timeline {
  return swapped(edited(plan, state?.edits ?? []), state?.swaps ?? []);
}

/** From a segment on, and within its block, something else is called instead of what was planned. */
export function swapped(plan: Timeline, swaps: NonNullable<Conduct["swaps"]>): Timeline {
  return swaps.reduce((before, swap) => {
    const from = before.segments.findIndex((one) => one.id === swap.segment);
    const first = before.segments[from];
    if (!first) return before;
    const touched = (index: number) =>
      index >= from && before.segments[index]?.block === first.block;
    const made = timedAs(before, swap, touched);
    const segments = made.segments.map((one, index) =>
      touched(index) && one.label === swap.was ? { ...one, label: swap.label } : one,
    );
    const cues = made.cues.map((cue) =>
      cue.block === first.block && cue.at_ms >= first.from_ms
        ? { ...cue, say: cue.say.replace(swap.was, swap.label) }
        : cue,
    );
    const blocks = made.blocks.map((block, index) =>
      index === first.block ? blockSwapped(block, swap) : block,
    );
    return { ...made, segments, cues, blocks };
  }, plan);
}

/** Another test's goes are as long as its clock; those of one without a clock are no waves of one. */
function timedAs(
  plan: Timeline,
  { activity_id, seconds }: NonNullable<Conduct["swaps"]>[number],
  touched: (index: number) => boolean,
): Timeline {
  if (!activity_id) return plan;
  const goes = plan.segments.filter((one, index) => touched(index) && one.phase === "work");
  if (!seconds) {
    const clockless = new Set(goes);
    const segments = plan.segments.map((one) => (clockless.has(one) ? { ...one, wave: 0 } : one));
    return { ...plan, segments };
  }
  const edits = goes.map((one) => ({
    segment: one.id,
    add_ms: seconds * 1000 - (one.to_ms - one.from_ms),
  }));
  return edited(
    plan,
    edits.filter((one) => one.add_ms),
    0.5,
  );
}

/**
 * Seconds from the end of the last effort to the count of a pulse check, as they really passed; null
 * before it is counted, and where nothing was done before that a clock knows the end of.
 */
export function restBefore(
  plan: Timeline,
  state: Conduct | null,
  block: number | null,
): number | null {
  const count = plan.segments.findIndex((one) => one.block === block && one.phase === "count");
  const left = new Map(state?.done?.map((one) => [one.segment, one]));
  const begun = left.get(plan.segments[count - 1]?.id ?? "")?.at_ms;
  const isEffort = ({ id, phase, wave }: Timeline["segments"][number]) =>
    (phase === "work" || (phase === "open" && wave > 0)) && left.get(id)?.seconds !== 0;
  const effort = plan.segments.slice(0, Math.max(count, 0)).findLast(isEffort);
  const ended = effort && left.get(effort.id)?.at_ms;
  return begun == null || ended == null ? null : Math.round((begun - ended) / 1000);
}

function blockSwapped(
  block: Timeline["blocks"][number],
  { was, label, activity_id }: NonNullable<Conduct["swaps"]>[number],
): Timeline["blocks"][number] {
  const stations = block.rotation?.stations.map((one) => (one === was ? label : one));
  return {
    ...block,
    label: activity_id || block.label === was ? label : block.label,
    activity_id: activity_id ?? block.activity_id,
    rotation: block.rotation && { ...block.rotation, stations: stations ?? [] },
  };
}

/** The timeline with segments lengthened or shortened as they were on the spot. */
export function edited(
  plan: Timeline,
  edits: Conduct["edits"],
  /** How much of what is added comes before the middle of a part, where "half-way" is called. */
  beforeMiddle = 0,
): Timeline {
  if (!edits?.length) return plan;
  const added = new Map<string, number>();
  for (const { segment, add_ms } of edits) {
    added.set(segment, (added.get(segment) ?? 0) + add_ms);
  }
  let shift = 0;
  const shifts: { from: number; to: number; before: number; own: number }[] = [];
  const segments = plan.segments.map((one) => {
    const own = added.get(one.id) ?? 0;
    shifts.push({ from: one.from_ms, to: one.to_ms, before: shift, own });
    const moved = { ...one, from_ms: one.from_ms + shift, to_ms: one.to_ms + shift + own };
    shift += own;
    return moved;
  });
  const cues = plan.cues
    .map((cue) => {
      const place = shifts.find((one) => cue.at_ms >= one.from && cue.at_ms < one.to);
      if (!place) return { ...cue, at_ms: cue.at_ms + shift };
      const share = OF_THE_END.has(cue.kind) ? 1 : cue.kind === "half_way" ? beforeMiddle : 0;
      const late = Math.round(share * place.own);
      return { ...cue, at_ms: cue.at_ms + place.before + late };
    })
    .filter((cue) => cue.at_ms >= 0)
    .sort((a, b) => a.at_ms - b.at_ms);
  const blocks = plan.blocks.map((block, index) => {
    const mine = segments.filter((one) => one.block === index);
    return { ...block, from_ms: mine[0]?.from_ms ?? 0, to_ms: mine.at(-1)?.to_ms ?? 0 };
  });
  return { segments, cues, blocks, total_ms: plan.total_ms + shift };
}

/**
 * What the clock shows: by itself it goes no further than a place that waits. Every device sees that
 * alike, and so does a page opened again; nobody has to stop it.
 */
export function placeAt(plan: Timeline, state: Conduct, at: number): number {
  return Math.min(offset(state, at), standsAt(plan, state) ?? Infinity);
}
/** Where the clock comes to stand next, going as it does now; null where nothing waits any more. */
export function standsAt(plan: Timeline, state: Conduct): number | null {
  // One that a device kept before there was such a thing has none.
  const from = (state.going_from_ms as number | undefined) ?? 0;
  return plan.segments.find((one) => one.waits && one.from_ms > from)?.from_ms ?? null;
}
/** Whether the clock stands at a place that waits until somebody goes on. */
export function isWaiting(plan: Timeline, state: Conduct | null, at: number): boolean {
  if (!state || state.ended || state.paused_ms != null) return false;
  const stop = standsAt(plan, state);
  return stop !== null && offset(state, at) >= stop;
}

/** The segment at a moment: -1 before the beginning, the number of segments after the end. */
export function segmentAt(plan: Timeline, at: number): number {
  if (at < 0) return -1;
  const found = plan.segments.findIndex((one) => at >= one.from_ms && at < one.to_ms);
  return found < 0 ? plan.segments.length : found;
}

/** The cues passed in (from, to]. */
export function passed(plan: Timeline, from: number, to: number): Cue[] {
  return cuesPassed(plan.cues, from, to);
}

/** Whether anything shown differs between two moments: a second, a cue, or that the clock waits. */
export function looksOther(plan: Timeline, state: Conduct, before: number, at: number): boolean {
  const from = placeAt(plan, state, before);
  const to = placeAt(plan, state, at);
  return (
    Math.floor(from / 1000) !== Math.floor(to / 1000) ||
    isWaiting(plan, state, before) !== isWaiting(plan, state, at) ||
    passed(plan, from, to).length > 0
  );
}
/** Milliseconds until something shown differs by itself. */
export function dueIn(plan: Timeline, state: Conduct, at: number): number {
  const place = placeAt(plan, state, at);
  const cue = plan.cues.find((one) => one.at_ms > place);
  return Math.min(toNext(1000, place), cue ? cue.at_ms - place : Infinity);
}
/** Whether its clock goes on by itself: begun, not over, not paused, and not waiting. */
export function goes(plan: Timeline | null, state: Conduct | null, at: number): boolean {
  if (!plan || !state || state.ended || state.paused_ms != null) return false;
  return !isWaiting(plan, state, at);
}

function changed(state: Conduct, change: Partial<Conduct>): Conduct {
  return { ...state, ...change, revision: state.revision + 1 };
}

/** The clock put at a place of the timeline, going or standing as it was. */
function put(state: Conduct, place: number, at: number): Partial<Conduct> {
  const going_from_ms = Math.round(place);
  // Never a part of a millisecond before the place: it would still be in what was left.
  const anchor_ms = Math.floor(at - going_from_ms);
  if (state.paused_ms == null) return { anchor_ms, going_from_ms };
  // How long it stood where it was is a pause that is over; here it stands anew.
  const { pauses } = goOn(state, at);
  return { anchor_ms, going_from_ms, paused_ms: going_from_ms, pauses };
}

export function pause(state: Conduct, plan: Timeline, at: number): Conduct {
  if (state.ended || isWaiting(plan, state, at)) return state;
  return stand(state, at);
}

/** Go on: after a pause, or from the place at which the clock waits. */
export function resume(state: Conduct, plan: Timeline, at: number): Conduct {
  if (state.ended) return state;
  if (isWaiting(plan, state, at)) return changed(state, put(state, placeAt(plan, state, at), at));
  if (state.paused_ms == null) return state;
  return { ...goOn(state, at), going_from_ms: state.paused_ms };
}

/** What was really done of a segment that is left at a place of the timeline, and when that was. */
function leave(
  state: Conduct,
  plan: Timeline,
  index: number,
  place: number,
  at: number,
): NonNullable<Conduct["done"]> {
  const one = plan.segments[index];
  if (!one) return [];
  const worked = Math.max(0, Math.min(place, one.to_ms) - one.from_ms);
  const added = (state.edits ?? [])
    .filter((edit) => edit.segment === one.id)
    .reduce((sum, edit) => sum + edit.add_ms, 0);
  return [
    {
      segment: one.id,
      seconds: Math.floor(worked / 1000),
      planned: Math.max(0, Math.round((one.to_ms - one.from_ms - added) / 1000)),
      block: plan.blocks[one.block]?.label ?? "",
      label: one.label,
      at_ms: Math.floor(at),
    },
  ];
}

/** Something else from now on, in place of what the segment that is on (or coming) is of. */
export function swap(
  state: Conduct,
  plan: Timeline,
  at: number,
  label: string,
  activityId: string | null,
  /** One of the block's stations; otherwise it is what the segment is of. */
  station?: string,
  /** How long the clock of a test runs that is done instead; null where it has none. */
  seconds: number | null = null,
): Conduct {
  const index = Math.max(0, segmentAt(plan, placeAt(plan, state, at)));
  const segment = plan.segments[index];
  const was = station ?? segment?.label;
  if (!segment || was === undefined || !label.trim() || was === label.trim()) return state;
  const one = { segment: segment.id, was, label: label.trim(), activity_id: activityId, seconds };
  const after = changed(state, { swaps: [...(state.swaps ?? []), one] });
  // A go of another test that is on begins anew: what has passed was of the old one.
  const isOn = activityId !== null && segment.phase === "work";
  return isOn ? again(after, swapped(plan, [one]), at) : after;
}

/** What the projector may show. */
export function showOnWall(state: Conduct, wall: NonNullable<Conduct["wall"]>): Conduct {
  return state.wall === wall ? state : changed(state, { wall });
}

/**
 * On from the segment that was shown to the next; what was left out is on record. Where it ended by
 * itself at that very moment, what comes after is not skipped as well: there it goes on.
 */
export function skip(state: Conduct, plan: Timeline, at: number, shown: string): Conduct {
  const place = placeAt(plan, state, at);
  const index = segmentAt(plan, place);
  const one = plan.segments[index];
  if (!one) return state;
  if (one.id !== shown) return isWaiting(plan, state, at) ? resume(state, plan, at) : state;
  const done = [...(state.done ?? []), ...leave(state, plan, index, place, at)];
  return changed(state, { ...put(state, one.to_ms, at), done });
}

/** On from the block of the segment that was shown to the next, whatever is left of it. */
export function skipBlock(state: Conduct, plan: Timeline, at: number, shown: string): Conduct {
  const place = placeAt(plan, state, at);
  const first = segmentAt(plan, place);
  const block = plan.segments[first]?.block;
  if (block !== plan.segments.find((one) => one.id === shown)?.block) return state;
  const last = plan.segments.findLastIndex((one) => one.block === block);
  if (block === undefined || last < first) return state;
  const left = plan.segments
    .slice(first, last + 1)
    .flatMap((_one, number) => leave(state, plan, first + number, place, at));
  const end = plan.segments[last]?.to_ms ?? place;
  return changed(state, { ...put(state, end, at), done: [...(state.done ?? []), ...left] });
}

/** To the beginning of this segment, or of the one before when it has only just begun. */
export function back(state: Conduct, plan: Timeline, at: number): Conduct {
  const place = placeAt(plan, state, at);
  let index = Math.min(segmentAt(plan, place), plan.segments.length - 1);
  const begun = plan.segments[index]?.from_ms ?? 0;
  if (place - begun < 3_000 && index > 0) index -= 1;
  const before = new Set(plan.segments.slice(0, index).map((one) => one.id));
  const done = (state.done ?? []).filter((one) => before.has(one.segment));
  const place_ms = plan.segments[index]?.from_ms ?? 0;
  return changed(state, { ...put(state, place_ms, at), done, ended: false });
}

/** The go of a test that is on, or was on last in this block, from its get-ready: it waits there. */
export function again(state: Conduct, plan: Timeline, at: number): Conduct {
  const place = placeAt(plan, state, at);
  const here = Math.min(segmentAt(plan, place), plan.segments.length - 1);
  const block = plan.segments[here]?.block;
  const index = plan.segments.findLastIndex(
    (one) => one.block === block && one.phase === "ready" && one.from_ms < place,
  );
  const one = plan.segments[index];
  if (!one) return state;
  const before = new Set(plan.segments.slice(0, index).map((each) => each.id));
  const done = (state.done ?? []).filter((each) => before.has(each.segment));
  const stood = { ...put(state, one.from_ms, at), paused_ms: one.from_ms };
  return changed(state, { ...stood, done, ended: false });
}

/** Lengthen (or shorten) the segment that is on, never to less than has passed. */
export function stretch(state: Conduct, plan: Timeline, ms: number, at: number): Conduct {
  const place = placeAt(plan, state, at);
  const index = segmentAt(plan, place);
  const one = plan.segments[index];
  if (!one) return state;
  const least = Math.max(place - one.from_ms, 0) + LEAST_MS;
  const allowed = Math.max(ms, least - (one.to_ms - one.from_ms));
  if (allowed === 0 || (ms < 0 && allowed > 0)) return state;
  return changed(state, {
    edits: [...(state.edits ?? []), { segment: one.id, add_ms: Math.round(allowed) }],
  });
}

/** Segments that ended by themselves between two looks are put on record. */
export function record(state: Conduct, plan: Timeline, from: number, to: number): Conduct {
  const known = new Set((state.done ?? []).map((one) => one.segment));
  const ended = plan.segments.flatMap((one, index) =>
    one.to_ms > from && one.to_ms <= to && !known.has(one.id)
      ? leave(state, plan, index, one.to_ms, state.anchor_ms + one.to_ms)
      : [],
  );
  const over = to >= plan.total_ms && !state.ended;
  if (!ended.length && !over) return state;
  return changed(state, { done: [...(state.done ?? []), ...ended], ended: state.ended || over });
}

/** Whole seconds left of a segment. */
export function secondsLeft(one: Segment, place: number): number {
  return Math.max(0, Math.ceil((one.to_ms - place) / 1000));
}
