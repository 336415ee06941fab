/** What children enter on this device: the week that its code opens, and each child's own goes. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { useOnline } from "@vueuse/core";
import { computed, onScopeDispose, type Ref } from "vue";
import { v4 as newId } from "uuid";
import { answer, client, type Schemas } from "../../api/client";
import { now } from "../../parts/time/timeSource";
import type { Job, NewGo } from "../../sync/jobs";
import { goLane } from "../../sync/lane";
import { useGuest } from "../../sync/useGuest";
import { useSync } from "../../sync/useSync";

type Week = Schemas["MyWeek"];
type Goes = Schemas["MyGoes"];
/** Where a go stands: with the teacher, or still on this device. */
export type Standing = Schemas["GoState"] | "unsent" | "refused";
export interface ShownGo {
  id: string;
  challengeId: string;
  shown: string;
  standing: Standing;
  /** Why it was not taken. */
  why: string;
}
/** How often a week is asked for again: it closes, and goes are accepted. */
const ASK_AGAIN_MS = 60_000;
const KEY = ["mine"];
const goesKey = (slipId: string) => [...KEY, slipId];

export const useMyWeek = () =>
  useGuest({
    kind: "child",
    page: { queryKey: KEY, queryFn: () => answer(client.GET("/api/mine")) },
    idOf: (week: Week) => week.entrance_id,
    open: (given: { code: string }) => answer(client.POST("/api/mine", { body: given })),
    close: () => answer(client.DELETE("/api/mine")),
    everyMs: () => ASK_AGAIN_MS,
  });

/** Those on their way before those that came, the newest first. */
export function shownGoes(goes: Goes["goes"], jobs: readonly Job[], slipId: string): ShownGo[] {
  const mine = jobs.flatMap((job) =>
    job.kind === "go" && job.body.slip_id === slipId ? [job] : [],
  );
  const here = new Map(mine.map((job) => [job.id, job]));
  const unsent = mine
    .filter((job) => !job.body.undone)
    .reverse()
    .map((job): ShownGo => ({
      id: job.id,
      challengeId: job.body.challenge_id,
      shown: job.shown ?? job.body.typed,
      standing: job.refusal ? "refused" : "unsent",
      why: job.refusal?.message ?? "",
    }));
  const came = goes
    .filter((one) => !here.has(one.id))
    .map((one): ShownGo => ({
      id: one.id,
      challengeId: one.challenge_id,
      shown: one.shown,
      standing: one.state,
      why: "",
    }));
  return [...unsent, ...came];
}

export function useMyGoes(slipId: () => string) {
  const queries = useQueryClient();
  const sync = useSync();
  const isOnline: Ref<boolean> = useOnline();
  const query = useQuery({
    queryKey: computed(() => goesKey(slipId())),
    queryFn: () =>
      answer(
        client.GET("/api/mine/children/{slip_id}", { params: { path: { slip_id: slipId() } } }),
      ),
    staleTime: 0,
    refetchInterval: () => (sync.waiting.value ? false : ASK_AGAIN_MS),
  });
  const goes = computed(() => shownGoes(query.data.value?.goes ?? [], sync.mine.value, slipId()));

  function write(go: {
    challengeId: string;
    typed: string;
    shown: string;
    variant: string;
    countedBy: string | null;
  }) {
    const id = newId();
    const body: NewGo = {
      id,
      slip_id: slipId(),
      challenge_id: go.challengeId,
      typed: go.typed,
      variant: go.variant,
      made_at: new Date(now()).toISOString(),
      counted_by: go.countedBy,
      undone: false,
    };
    void sync.put({ id, kind: "go", at: slipId(), lane: goLane(id), shown: go.shown, body });
  }
  /** One that came is undone at the teacher's too; one that was not taken is let go. */
  function undo(go: ShownGo) {
    if (go.standing === "refused") {
      sync.dismiss(go.id);
      return;
    }
    const body: NewGo = {
      id: go.id,
      slip_id: slipId(),
      challenge_id: go.challengeId,
      typed: "",
      variant: "",
      made_at: new Date(now()).toISOString(),
      counted_by: null,
      undone: true,
    };
    void sync.put({ id: go.id, kind: "go", at: slipId(), lane: goLane(go.id), body });
  }
  // What the server has is in the page at once, also where it cannot be asked again just then.
  const stop = sync.onSaved((job, answered) => {
    if (job.kind !== "go") return;
    const { state } = answered as Schemas["EnteredGo"];
    queries.setQueryData<Goes>(goesKey(job.body.slip_id), (page) =>
      page ? { ...page, goes: withGo(page.goes, job, state as Schemas["GoState"]) } : page,
    );
    void queries.invalidateQueries({ queryKey: goesKey(job.body.slip_id) });
  });
  onScopeDispose(stop);
  return { query, goes, write, undo, isOnline };
}

function withGo(
  goes: Goes["goes"],
  job: Extract<Job, { kind: "go" }>,
  state: Schemas["GoState"],
): Goes["goes"] {
  const others = goes.filter((one) => one.id !== job.id);
  if (state === "undone") return others;
  const { challenge_id, typed, variant, made_at } = job.body;
  const go = {
    id: job.id,
    challenge_id,
    typed,
    shown: job.shown ?? typed,
    variant,
    made_at,
    state,
  };
  return [go, ...others];
}
