import { t } from "../messages/catalogue";
import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import { nextTick, ref } from "vue";
import { createVuetify } from "vuetify";
import KitRows from "./KitRows.vue";
import VariantRows from "./VariantRows.vue";

const global = { plugins: [createVuetify()] };

function pressed(page: ReturnType<typeof mount>, words: string, place = 0) {
  const buttons = page.findAll("button").filter((one) => one.text() === words);
  return buttons[place]?.trigger("click");
}

describe("rows of a protocol", () => {
  it("of kit are added, filled and taken away, the others untouched", async () => {
    const kit = ref([{ item: "mat", each: 1, of: "pair" as const }]);
    const page = mount(KitRows, {
      props: {
        modelValue: kit.value,
        "onUpdate:modelValue": (rows) => (kit.value = rows as never),
      },
      global,
    });
    await pressed(page, "Add kit");
    await page.setProps({ modelValue: kit.value });
    await page.findAll("input[aria-label=Item]")[1]?.setValue("cone");
    await page.findAll("input[aria-label='How many']")[1]?.setValue("2.5");
    await nextTick();
    expect(kit.value.map((one) => [one.item, one.each, one.of])).toEqual([
      ["mat", 1, "pair"],
      ["cone", 2.5, "pair"],
    ]);
    await pressed(page, t("delete"));
    expect(kit.value.map((one) => one.item)).toEqual(["cone"]);
  });

  it("of variants keep their order, from the easiest", async () => {
    const variants = ref([{ code: "knees", name: "on the knees", key: "n", usual: true }]);
    const page = mount(VariantRows, {
      props: {
        modelValue: variants.value,
        "onUpdate:modelValue": (rows) => (variants.value = rows as never),
      },
      global,
    });
    await pressed(page, t("addForm"));
    await page.setProps({ modelValue: variants.value });
    const codes = page.findAll(".v-input").filter((one) => one.text().startsWith(t("code2")));
    await codes[1]?.find("input").setValue("full");
    expect(variants.value.map((one) => one.code)).toEqual(["knees", "full"]);
  });
});
