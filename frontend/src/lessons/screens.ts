/** The screens of the hall, fetched when they are shown first. */
import { defineAsyncComponent, type Component } from "vue";
import { WAYS } from "../sheet/ways";

export const SCREENS: Record<string, Component> = {
  ...Object.fromEntries(WAYS.map(({ name, screen }) => [name, defineAsyncComponent(screen)])),
  grid: defineAsyncComponent(() => import("../sheet/ways/Grid.vue")),
  pulse: defineAsyncComponent(() => import("../sheet/ways/Pulse.vue")),
};
