import { expect, it } from "vitest";
import { nextTick, reactive } from "vue";
import { useOwnId } from "./useOwnId";

it("is one while nothing is changed, and another for something else", async () => {
  const form = reactive({ name: "Spring week", tests: ["a"] });
  const id = useOwnId(form);
  const first = id.value;
  await nextTick();
  expect(id.value).toBe(first);
  form.tests.push("b");
  await nextTick();
  expect(id.value).not.toBe(first);
});

it("is the known one as long as it is still that", async () => {
  const form = reactive({ class_id: "4", place: "Hall" });
  const known = { known: "of the timetable", stays: () => form.class_id === "4" };
  const id = useOwnId(form, known);
  form.place = "Playground";
  await nextTick();
  expect(id.value).toBe("of the timetable");
  form.class_id = "5";
  await nextTick();
  expect(id.value).not.toBe("of the timetable");
});
