/** The open lesson, shared by its screens. */
import { useQuery } from "@tanstack/vue-query";
import { computed, inject, provide, shallowRef, type InjectionKey, type Ref } from "vue";
import { useRoute } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { unlessTold } from "../sync/live";

export const lessonPage = (lessonId: string) => ({
  queryKey: ["lesson", lessonId],
  queryFn: () =>
    answer(client.GET("/api/lessons/{lesson_id}", { params: { path: { lesson_id: lessonId } } })),
});

function lessonQuery(lessonId: string) {
  const route = useRoute();
  const query = useQuery({
    ...lessonPage(lessonId),
    // The clocks of other devices appear by themselves.
    refetchInterval: () => unlessTold(10_000),
  });
  /** The one named in the address, else the first. */
  const activity = computed(() => {
    const all = query.data.value?.activities ?? [];
    return all.find((one) => one.id === route.query.activity) ?? all[0] ?? null;
  });
  return { query, lesson: query.data, activity };
}

type Lesson = ReturnType<typeof lessonQuery> & {
  /** In the lesson's first line, beside its name: what the open screen puts there. */
  line: Ref<HTMLElement | null>;
};
const KEY: InjectionKey<Lesson> = Symbol("lesson");

export function provideLesson(lessonId: string): Lesson {
  const lesson = { ...lessonQuery(lessonId), line: shallowRef<HTMLElement | null>(null) };
  provide(KEY, lesson);
  return lesson;
}

/** For the screens inside a lesson: it and its activity are there. */
export function useLesson(): Pick<Lesson, "lesson" | "line"> & {
  activity: () => Schemas["ActivityPage"];
} {
  const found = inject(KEY);
  if (!found) throw new Error("useLesson outside a lesson");
  return {
    lesson: found.lesson,
    line: found.line,
    activity: () => {
      if (!found.activity.value) throw new Error("the lesson has no activity");
      return found.activity.value;
    },
  };
}
