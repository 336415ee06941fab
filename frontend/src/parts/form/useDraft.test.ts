import { beforeEach, expect, it } from "vitest";
import { nextTick, reactive, ref } from "vue";
import { forgetDrafts, useDraft } from "./useDraft";

beforeEach(() => sessionStorage.clear());

function opened(name: () => string | null = () => "test") {
  const lines = reactive<Record<string, string>>({ say: "" });
  const form = reactive({ name: "", rungs: [] as string[], lines });
  return { form, lines, draft: useDraft(form, name) };
}

it("is there again as it was left, until it was sent", async () => {
  const first = opened();
  first.form.name = "Wall sit";
  first.form.rungs.push("20");
  first.lines.say = "Back flat.";
  first.lines.more = "Feet apart.";
  await nextTick();
  expect(first.draft.taken.value).toBe(false);
  const again = opened();
  expect(again.draft.taken.value).toBe(true);
  expect(again.form).toEqual(first.form);
  expect(again.lines).toEqual({ say: "Back flat.", more: "Feet apart." });
  again.draft.forget();
  expect(opened().form).toEqual({ name: "", rungs: [], lines: { say: "" } });
});

it("begun anew it is as it was, and so is one that was typed back", async () => {
  const first = opened();
  first.form.name = "Wall sit";
  first.lines.more = "Feet apart.";
  await nextTick();
  first.draft.anew();
  await nextTick();
  expect(first.form).toEqual({ name: "", rungs: [], lines: { say: "" } });
  first.form.name = "W";
  await nextTick();
  first.form.name = "";
  await nextTick();
  expect(sessionStorage.length).toBe(0);
});

it("waits until the form was filled in: what the server says is no draft", async () => {
  const version = ref<string | null>(null);
  const { form, draft } = opened(() => version.value);
  form.name = "Press-ups";
  version.value = "test.3";
  await nextTick();
  expect([sessionStorage.length, draft.taken.value]).toEqual([0, false]);
  form.name = "Press-ups, our way";
  await nextTick();
  expect(Object.keys(sessionStorage)).toEqual(["lauf.draft.test.3"]);
  forgetDrafts();
  expect(sessionStorage.length).toBe(0);
});
