/** Keys that are the hall's while nothing is being typed. */
import { useEventListener } from "@vueuse/core";
import type { Hall } from "./useHall";

export function useHallKeys(
  hall: Hall,
  does: { fill(): void; startOwn(): void; swap(): void; stretch(ms: number): void },
) {
  const { primary, live, hasOwn } = hall;

  /** Also while an empty cell has the typing. */
  function onEmptyField(event: KeyboardEvent): boolean {
    if (event.key === " " && event.shiftKey) does.fill();
    else if (event.key === " " && hasOwn.value) does.startOwn();
    else if (event.key === " " && primary.value?.space) primary.value.act();
    else if (event.shiftKey && event.key === "ArrowRight" && live.value) hall.skip();
    else if (event.shiftKey && event.key === "ArrowLeft" && live.value) hall.back();
    else return false;
    return true;
  }
  function beside(event: KeyboardEvent): boolean {
    if (!live.value) return false;
    if (event.key === "ArrowRight" || event.key === "n") hall.skip();
    else if (event.key === "ArrowLeft" || event.key === "b") hall.back();
    else if (event.key === "+") does.stretch(15_000);
    else if (event.key === "-") does.stretch(-15_000);
    else if (event.key === "s") does.swap();
    else return false;
    return true;
  }
  /** Ways with keys of their own keep them. */
  const typesHere = (target: HTMLElement) => target.closest(".way, .messages") !== null;

  useEventListener(
    window,
    "keydown",
    (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      if (target.closest("select,[role=dialog],[role=alertdialog],.v-overlay,.drawer")) return;
      if (event.key === " " && target.closest("button")) return; // the pressed button does it
      const field = target.closest<HTMLInputElement>("input,textarea");
      if (field?.value) return;
      const isCell = field === null || (field.type === "text" && typesHere(field));
      if (!isCell || !(onEmptyField(event) || (!field && !typesHere(target) && beside(event))))
        return;
      event.preventDefault();
      event.stopPropagation();
    },
    { capture: true },
  );
}
