/** A movement and the pulse that is counted after it: one thing to add, with one name. */
import { t } from "../../messages/lessons";
import { fresh, type Entry } from "./blocks";

const pulseAfter = (movement: string) =>
  t("pulseAfterTolowercase", { toLowerCase: movement.toLowerCase() });
const isCalled = (one: string, other: string) => one.toLowerCase() === other.toLowerCase();
const capital = (name: string) => name.charAt(0).toUpperCase() + name.slice(1);

/** A block of one movement and its pulse, from what a new one of each kind begins with. */
export function movementWithPulse(): Entry[] {
  const intervals = fresh("intervals");
  const movements = intervals.movements?.slice(0, 1) ?? [];
  const name = movements[0]?.name ?? "";
  return [
    { ...intervals, movements, label: capital(name) },
    { ...fresh("pulse"), label: pulseAfter(name) },
  ];
}

/**
 * The blocks with one of them changed. A block that was called as its one movement keeps its name, and
 * so does the pulse that was called after it.
 */
export function withChanged(blocks: Entry[], index: number, changed: Entry): Entry[] {
  const before = blocks[index];
  if (!before) return blocks;
  const [was, is] = [only(before), only(changed)];
  const follows = was && is && isCalled(before.label ?? "", was) && before.label === changed.label;
  const one = follows ? { ...changed, label: capital(is) } : changed;
  const pulse = blocks[index + 1];
  const renames =
    pulse?.kind === "pulse" &&
    before.label !== one.label &&
    isCalled(pulse.label ?? "", pulseAfter(before.label ?? ""));
  return blocks.map((old, place) => {
    if (place === index) return one;
    return renames && place === index + 1 ? { ...old, label: pulseAfter(one.label ?? "") } : old;
  });
}
/** The name of a block's movement, where it has one only. */
function only(block: Entry): string {
  const movements = block.kind === "intervals" ? (block.movements ?? []) : [];
  return movements.length === 1 ? (movements[0]?.name ?? "") : "";
}
