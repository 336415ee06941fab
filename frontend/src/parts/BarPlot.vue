<script setup lang="ts">
/** Bars from ECharts, in the floor's own colours and told apart by pattern; a table stands beside. */
import { BarChart } from "echarts/charts";
import { AriaComponent, GridComponent, LegendComponent } from "echarts/components";
import { init, use, type EChartsType } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { useResizeObserver } from "@vueuse/core";
import { onBeforeUnmount, onMounted, useTemplateRef, watch } from "vue";
import { useTheme } from "vuetify";

use([BarChart, GridComponent, LegendComponent, AriaComponent, SVGRenderer]);
const props = defineProps<{
  names: string[];
  rows: { name: string; values: number[] }[];
  stacked?: boolean;
  label: string;
}>();
const box = useTemplateRef<HTMLElement>("box");
const theme = useTheme();
let plot: EChartsType | null = null;

/** A colour of the theme as it stands in CSS. */
const plain = (colour: unknown) => (typeof colour === "string" ? colour : "");
function draw() {
  const colours = theme.global.current.value.colors;
  const line = plain(colours.line ?? colours.primary);
  const ink = plain(colours["on-background"]);
  const floor = plain(colours.surface);
  plot?.setOption(
    {
      animation: false,
      textStyle: { fontFamily: "Atkinson Hyperlegible", color: ink },
      color: [line, plain(colours.chalk ?? "#777"), floor],
      aria: { enabled: true, decal: { show: props.stacked } },
      legend: props.stacked ? { bottom: 0, textStyle: { color: ink } } : undefined,
      grid: { left: 4, right: 12, top: 8, bottom: props.stacked ? 30 : 4, containLabel: true },
      xAxis: { type: "value", max: 100, axisLabel: { color: ink } },
      yAxis: { type: "category", data: props.names, inverse: true, axisLabel: { color: ink } },
      series: props.rows.map((row) => ({
        type: "bar",
        name: row.name,
        data: row.values,
        stack: props.stacked ? "all" : undefined,
        itemStyle: { borderColor: line, borderWidth: 1 },
      })),
    },
    true,
  );
}
onMounted(() => {
  if (!box.value) return;
  plot = init(box.value, null, { renderer: "svg" });
  draw();
});
watch(() => [props.names, props.rows, theme.global.name.value], draw);
useResizeObserver(box, () => plot?.resize());
onBeforeUnmount(() => plot?.dispose());
</script>

<template>
  <div
    ref="box"
    role="img"
    :aria-label="label"
    :style="{ height: `${60 + names.length * 34}px` }"
  ></div>
</template>
