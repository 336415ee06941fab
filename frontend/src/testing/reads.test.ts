/** Pages that are read by one question each: what is asked, under which name, and when again. */
import { expect, it } from "vitest";
import { ref } from "vue";
import { useTests } from "../catalogue/useTests";
import { useClassName } from "../exchange/useClassName";
import { useClass, useClassLessons } from "../people/useClass";
import { onPage, settled } from "../testing/page";
import { TestServer } from "../testing/server";
import { useLessonSummary } from "../parts/useLessonSummary";

it.each([
  ["a class", () => useClass("c").data, "/api/classes/c"],
  ["its lessons", () => useClassLessons("c").data, "/api/classes/c/lessons"],
  ["what a lesson found", () => useLessonSummary("l").data, "/api/lessons/l/found"],
  ["the tests", () => useTests().data, "/api/tests"],
] as const)("asks once for %s", async (_what, use, path) => {
  const server = new TestServer();
  for (const route of [
    "/api/classes/{class_id}",
    "/api/classes/{class_id}/lessons",
    "/api/lessons/{lesson_id}/found",
    "/api/tests",
  ] as const) {
    server.on("GET", route, ({ path: at }) => ({ at }));
  }
  const page = await onPage(use as () => { value: unknown });
  expect([page.it.value, server.asked.map((one) => one.path)]).toEqual([{ at: path }, [path]]);
  page.leave();
});

it("asks for the tests only once they are wanted", async () => {
  const server = new TestServer();
  server.on("GET", "/api/tests", () => []);
  const wanted = ref(false);
  const page = await onPage(() => useTests(wanted));
  expect(server.asked).toEqual([]);
  wanted.value = true;
  await settled();
  expect(server.asked).toHaveLength(1);
  page.leave();
});

it("has a class's name once the class is there, by the same question", async () => {
  const server = new TestServer();
  server.on("GET", "/api/classes/{class_id}", () => ({ name: "4 Heron" }));
  const names: string[] = [];
  const page = await onPage(() => {
    const name = useClassName("c");
    names.push(name.value);
    return { name, whole: useClass("c") };
  });
  expect([names, page.it.name.value, server.asked.length]).toEqual([[""], "4 Heron", 1]);
  page.leave();
});
