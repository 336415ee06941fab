/** The screens of the hall, fetched when they are shown first. */
import { defineAsyncComponent, type Component } from "vue";
import { WAYS } from "../../sheet/ways";

const FETCHED: Record<string, () => Promise<Component | { default: Component }>> = {
  ...Object.fromEntries(WAYS.map(({ name, screen }) => [name, screen])),
  grid: () => import("../../sheet/ways/grid/Grid.vue"),
  pulse: () => import("../../sheet/ways/pulse/Pulse.vue"),
};
export const SCREENS: Record<string, Component> = Object.fromEntries(
  Object.entries(FETCHED).map(([name, screen]) => [name, defineAsyncComponent(screen)]),
);
/** Have all of them here before one is wanted; what cannot be fetched now is asked for again then. */
export async function fetchScreens(): Promise<void> {
  await Promise.allSettled(Object.values(FETCHED).map((screen) => screen()));
}
