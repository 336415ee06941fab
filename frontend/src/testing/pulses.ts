/** A lesson's pulses as the server has them. */
import type { Schemas } from "../api/client";
import { TestServer } from "./server";

const MOMENTS = ["rest", "activity", "recovery"] as const;
const LABELS = ["Rest", "Star jumps", "Walk"];

export class PulseServer extends TestServer {
  readonly kept: Schemas["NewPulse"][] = [];
  private asked_about = new Set<string>();
  page: Schemas["PulsePage"] = {
    lesson_id: "lesson",
    closed_at: null,
    formula: "tanaka",
    caution: "",
    seconds: [10, 15, 60],
    columns: MOMENTS.map((moment, position) => ({
      position,
      moment,
      label: LABELS[position] ?? "",
      words: LABELS[position] ?? "",
      n: 0,
      median: null,
    })),
    most: null,
    children: ["Ada", "Ben"].map((name, at) => ({
      pupil_id: name.toLowerCase(),
      number: at + 1,
      name,
      medical_note: "",
      readings: [],
      words: [],
    })),
  };

  constructor() {
    super();
    this.on("GET", "/api/lessons/{lesson_id}/pulse", () => this.page);
    this.on("POST", "/api/lessons/{lesson_id}/pulses", ({ body }) => ({
      ...this.keep(body as Schemas["NewPulse"]),
      device_clock: "",
    }));
  }
  /** Whatever is typed so is hardly to be believed. */
  asksAbout(typed: string) {
    this.asked_about.add(typed);
  }
  private keep(entry: Schemas["NewPulse"]): Schemas["PulseChild"] {
    this.kept.push(entry);
    const before = this.page.children.find((one) => one.pupil_id === entry.pupil_id)!;
    const rate = Math.round((Number(entry.typed) * 60) / entry.seconds);
    const asks = this.asked_about.has(entry.typed) && !entry.confirmed;
    const reading: Schemas["PulseRow"] = {
      id: entry.id,
      position: entry.position,
      typed: entry.typed,
      seconds: entry.seconds,
      rate,
      shown: entry.withdrawn ? "" : `${rate}`,
      taken_back: entry.withdrawn,
      reason: null,
      confirmed: entry.confirmed,
      flags: asks ? [{ code: "low", words: "hardly to be believed" }] : [],
    };
    const others = before.readings.filter((one) => one.position !== entry.position);
    const after = { ...before, readings: [...others, reading] };
    const children = this.page.children.map((one) => (one === before ? after : one));
    this.page = { ...this.page, children };
    return after;
  }
}
export const begin = () => new PulseServer();
