/** The open lesson: one for all its screens, and the test that the address names. */
import { expect, it } from "vitest";
import { defineComponent } from "vue";
import { activity } from "../testing/hall";
import { onPage, settled } from "../testing/page";
import { TestServer } from "../testing/server";
import { provideLesson, useLesson } from "./useLesson";

async function begin(address: string, activities = ["reps", "mile"]) {
  const server = new TestServer();
  server.on("GET", "/api/lessons/{lesson_id}", () => ({
    id: "lesson",
    activities: activities.map((id) => activity({ id })),
  }));
  let inside: ReturnType<typeof useLesson> | undefined;
  const Screen = defineComponent(() => {
    inside = useLesson();
    return () => null;
  });
  const page = await onPage(
    () => provideLesson("lesson"),
    address,
    () => Screen,
  );
  return { server, page, inside: inside!, lesson: page.it };
}

it("is read once for all its screens, and its test is the one in the address", async () => {
  const { server, inside, page } = await begin("/?activity=mile");
  expect([server.asked.length, inside.lesson.value?.id]).toEqual([1, "lesson"]);
  expect(inside.activity().id).toBe("mile");
  await page.router.replace({ query: { activity: "gone" } });
  await settled();
  expect(inside.activity().id).toBe("reps");
});

it("has a line that the open screen fills", async () => {
  const { inside, lesson } = await begin("/");
  lesson.line.value = document.createElement("p");
  expect(inside.line.value?.tagName).toBe("P");
});

it("says where it is used without what it needs", async () => {
  const { inside } = await begin("/", []);
  expect(() => inside.activity()).toThrow("no activity");
  const alone = onPage(() => useLesson());
  await expect(alone).rejects.toThrow("outside a lesson");
});
