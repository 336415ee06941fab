import { t } from "../messages/catalogue";
import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import { reactive } from "vue";
import { createVuetify } from "vuetify";
import type { Schemas } from "../api/client";
import ProtocolLimits from "./ProtocolLimits.vue";
import { startingNoise } from "./words";

function limits(protocol: Partial<Schemas["Protocol"]>) {
  const form = reactive({ kind: "count", unit: "reps", ...protocol }) as Schemas["Protocol"];
  const page = mount(ProtocolLimits, {
    props: { form, conditions: {} },
    global: { plugins: [createVuetify()] },
  });
  const labelled = (words: string) => {
    const field = page.findAll(".v-input").find((one) => one.text().startsWith(words));
    if (!field) throw new Error(`no field ${words}`);
    return field;
  };
  return { form, page, labelled };
}

describe("limits of a protocol", () => {
  it("are typed in the unit the test is measured in and kept in canonical ones", async () => {
    const { form, labelled } = limits({ kind: "time", unit: "s", highest: 65_300, cap: 60_000 });
    const most = labelled("Most anyone can do, s").find("input");
    expect(most.element.value).toBe("65.3");
    await most.setValue("90.5");
    await most.trigger("change");
    expect(form.highest).toBe(90_500);
    const cap = labelled(t("maximumOfTheTest")).find("input");
    await cap.setValue("");
    await cap.trigger("change");
    expect(form.cap).toBeNull();
  });

  it("show one day-to-day variation in the unit where no share was ever set", async () => {
    const { labelled } = limits({ default_typical_error: 2 });
    expect(labelled("Day-to-day variation, reps").find("input").element.value).toBe("2");
  });

  it("say variation by age, which one value for everybody takes the place of", async () => {
    const { form, labelled } = limits({
      default_typical_error: 2,
      errors_by_age: [
        [5, 1.4],
        [11, 2.2],
      ],
    });
    const variation = labelled("Day-to-day variation, reps");
    expect(variation.text()).toContain(t("nowByAgeAges", { ages: "5: 1.4, 11: 2.2" }));
    await variation.find("input").setValue("3");
    await variation.find("input").trigger("change");
    expect(form).toMatchObject({ default_typical_error: 3, errors_by_age: [] });
  });

  it("say a share in percent, by age as well", async () => {
    const { form, labelled } = limits({
      kind: "time",
      unit: "s",
      error_share: 0.06,
      errors_by_age: [[5, 0.075]],
    });
    const variation = labelled("Day-to-day variation, % of the score");
    expect(variation.text()).toContain("5: 7.5");
    await variation.find("input").setValue("5.5");
    await variation.find("input").trigger("change");
    expect(form).toMatchObject({ error_share: 0.055, errors_by_age: [] });
  });

  it("begin with a guess in the terms of the kind, never two thousandths of a second", () => {
    expect(startingNoise("time", "s")).toMatchObject({ error_share: 0.08 });
    expect(startingNoise("offset", "cm")).toMatchObject({
      error_share: null,
      default_typical_error: 20,
    });
    expect(startingNoise("count", "reps").default_typical_error).toBe(2);
  });
});
