/** A class in one test as the server has it: what is kept there, and what it answers. */
import type { Schemas } from "../api/client";
import type { Activity } from "../sheet/useTest";
import type { Board, Child } from "../sheet/types";
export type { Board };
import { Refused, TestServer } from "./server";

export const NAMES = ["Ada", "Ben", "Cy", "Dot"];

const REASONS = [
  { key: "a", code: "absent", words: "absent" },
  { key: "s", code: "sat_out", words: "sat out" },
  { key: "v", code: "void", words: "void" },
];

export function score(id: string, typed: string, more: Partial<Schemas["Score"]> = {}) {
  const reason = REASONS.find((one) => one.key === typed || one.words === typed);
  return {
    id,
    typed,
    shown: reason?.words ?? typed,
    value: reason ? null : Number.parseInt(typed, 10),
    reason: reason?.code ?? null,
    estimate: false,
    variant: "full",
    wave: 1,
    conditions: {},
    corrected: false,
    open: false,
    ...more,
  } satisfies Schemas["Score"];
}
export function child(name: string, number: number, more: Partial<Child> = {}): Child {
  return {
    pupil_id: name.toLowerCase(),
    number,
    name,
    medical_note: "",
    wave: number % 2 ? 1 : 2,
    variant: "full",
    head: null,
    score: null,
    tries: [{ number: 1, head: null, score: null }],
    words: [],
    target: null,
    flags: [],
    lane: {
      better: "up",
      variant: "full",
      rungs: [],
      earlier: [],
      today: null,
      best: null,
      band: null,
      origin: 0,
      scale: 30,
    },
    care: null,
    ...more,
  };
}
export function board(more: Partial<Board> = {}): Board {
  const tries = more.tries ?? 1;
  const made = Array.from({ length: tries }, (_, at) => ({
    number: at + 1,
    head: null,
    score: null,
  }));
  return {
    activity_id: "reps",
    lesson_id: "lesson",
    class_id: "class",
    class_name: "4 Heron",
    test: "Press-ups",
    private: false,
    kind: "count",
    unit: "reps",
    seconds: 60,
    closed_at: null,
    waves: 2,
    tries,
    most_tries: tries + 2,
    merge: "best",
    of: null,
    better: "up",
    laps: null,
    cap: null,
    cap_typed: "",
    conditions: [],
    variants: [
      { code: "full", name: "full", key: "f", usual: true },
      { code: "knees", name: "on knees", key: "k", usual: false },
    ],
    accepted: "Type a whole number from 0 to 60.",
    quick_check: { pattern: "^\\d{1,3}$", lowest: 0, highest: 60 },
    reasons: REASONS,
    children: NAMES.map((name, at) => child(name, at + 1, { tries: made })),
    ...more,
  };
}
export function activity(more: Partial<Activity> = {}): Activity {
  return {
    id: "reps",
    test_id: "press-ups",
    test: "Press-ups",
    private: false,
    kind: "count",
    version: 1,
    seconds: 60,
    waves: 2,
    variants: [],
    say: [],
    counts: [],
    does_not_count: [],
    cautions: [],
    runs: [],
    ...more,
  };
}

/** A server with a class in one test, which keeps what is sent as the real one does. */
export class ClassServer extends TestServer {
  readonly kept: Schemas["NewAttempt"][] = [];
  readonly runs: (Schemas["RunRow"] & { at: string })[] = [];

  constructor(public board: Board) {
    super();
    this.on("GET", "/api/activities/{activity_id}/lanes", () => this.board);
    this.on("GET", "/api/activities/{activity_id}/reading", ({ query }) => ({
      words: `${query.get("typed")} as read`,
      problem: "",
      accepted: "",
      choices: [],
    }));
    this.on("POST", "/api/activities/{activity_id}/attempts", ({ body }) => ({
      ...this.keep(body as Schemas["NewAttempt"]),
      device_clock: "",
    }));
    this.on("PUT", "/api/activities/{activity_id}/runs/{run_id}", ({ at, body }) => {
      const run = { ...(body as Schemas["RunRow"]), id: at[1] ?? "", at: at[0] ?? "" };
      this.runs.push(run);
      return run;
    });
  }
  /** Whatever is typed so is not taken. */
  refuses(typed: string): this {
    this.refused.add(typed);
    return this;
  }
  /** What counts, as "Ada 1: 18" for each try. */
  counts(): string[] {
    return this.board.children.flatMap(({ name, tries }) =>
      tries.flatMap((one) => (one.score ? [`${name} ${one.number}: ${one.score.typed}`] : [])),
    );
  }
  private readonly refused = new Set<string>();

  private keep(entry: Schemas["NewAttempt"]): Child {
    if (this.refused.has(entry.typed)) {
      throw new Refused(422, { message: "That is not a score.", accepted: this.board.accepted });
    }
    const held = this.board.children.find((one) => one.pupil_id === entry.pupil_id);
    if (!held) throw new Refused(404);
    const before = this.kept.find((one) => one.id === entry.restores);
    this.kept.push(entry);
    const { id, withdrawn, variant, wave } = entry;
    const typed = before?.typed ?? entry.typed;
    const made = withdrawn ? null : score(id, typed, { variant, wave: wave ?? null });
    const numbers = new Set([...held.tries.map((one) => one.number), entry.try_number]);
    const tries = [...numbers]
      .sort((a, b) => a - b)
      .map((number) => {
        if (number === entry.try_number) return { number, head: id, score: made };
        return (
          held.tries.find((one) => one.number === number) ?? { number, head: null, score: null }
        );
      });
    const after = { ...held, tries, score: made, head: id };
    const children = this.board.children.map((one) => (one === held ? after : one));
    this.board = { ...this.board, children };
    return after;
  }
}
