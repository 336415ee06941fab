/** Any series of acts leaves on the server what the screen says; and single ones by hand. */
import { t } from "../messages/sheet";
import fc from "fast-check";
import { defineComponent, ref, watchEffect } from "vue";
import { describe, expect, it } from "vitest";
import { activity, board, ClassServer } from "../testing/hall";
import { onPage, sent, settled } from "../testing/page";
import { keyOf, type Place } from "./types";
import { useTest } from "./useTest";
import { alone, Meaning, Page, PLACES, Server, together, World, type Act } from "./useSheet.model";

describe("the sheet", () => {
  it("leaves what was meant, whatever the network does", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(alone, { maxLength: 40, size: "max" }), async (acts) => {
        const world = new World();
        const meant = new Meaning();
        for (const act of acts as Act[]) {
          let one = act;
          // Whether a refusal is known yet decides what undo goes back to: here it always is.
          if (one.act === "let go" || one.act === "resend") continue;
          if (one.act === "write" && world.server.net !== "up") one = { ...one, typed: "7" };
          if (one.act === "write") meant.write(one.at, one.typed);
          if (one.act === "clear") meant.write([one.at], null);
          if (one.act === "undo") meant.undo();
          if (one.act === "reload") meant.steps = [];
          await world.do(one);
          if (world.server.net === "up") await world.page.settle();
        }
        await world.page.settle();
        world.compare();
        for (const [at, place] of PLACES.entries()) {
          expect(world.server.state(place).typed).toBe(meant.stands.get(at) ?? null);
          const cell = world.page.sheet.cell(place);
          expect(cell.refusal ? cell.typed : null).toBe(meant.refused.get(at) ?? null);
        }
      }),
      { numRuns: 500 },
    );
  });

  it("and the server say the same, with another device writing as well", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(together, { maxLength: 40, size: "max" }), async (acts) => {
        const world = new World();
        for (const one of acts as Act[]) await world.do(one);
        await world.page.settle();
        world.compare();
        // Whatever is refused can be decided, and then nothing is left on the device.
        for (const place of PLACES) {
          const { refusal } = world.page.sheet.cell(place);
          if (refusal?.current) world.page.sheet.resend(place, { over: true });
          else world.page.sheet.letGo(place);
        }
        await world.page.settle();
        for (const place of PLACES) world.page.sheet.letGo(place);
        await world.page.settle();
        expect(world.compare().every((one) => !one.refused)).toBe(true);
        expect([...world.kept.values()]).toEqual([]);
        for (const chain of world.server.chains.values()) {
          const ids = chain.map((one) => one.id);
          expect(new Set(ids).size, "no entry twice").toBe(ids.length);
        }
      }),
      { numRuns: 500 },
    );
  });

  it("draws nothing anew but the place that was written", async () => {
    const page = new Page(new Server(), new Map());
    const drawn = PLACES.map(() => 0);
    page.scope.run(() =>
      PLACES.forEach((place, at) =>
        watchEffect(() => {
          page.sheet.cell(place);
          drawn[at]! += 1;
        }),
      ),
    );
    page.sheet.write([{ place: PLACES[1]!, entry: { typed: "12" } }]);
    await page.settle();
    expect(page.sheet.cell(PLACES[1]!)).toMatchObject({ typed: "12", state: "saved" });
    expect([drawn[0], drawn[2]]).toEqual([1, 1]);
    expect(drawn[1]).toBeGreaterThan(1);
  });

  it("leaves alone what another device has entered since, and names whose it is", async () => {
    const world = new World();
    const [ada, ben] = PLACES as [Place, Place];
    const { sheet } = world.page;
    sheet.write([
      { place: ada, entry: { typed: "12" } },
      { place: ben, entry: { typed: "18" } },
    ]);
    await world.page.settle();
    world.server.chain(keyOf(ada)).push({ id: "theirs", typed: "25" });
    world.page.read();
    sheet.takeBack();
    await world.page.settle();
    expect(world.server.state(ada)).toMatchObject({ head: "theirs", typed: "25" });
    expect(world.server.state(ben).typed).toBeNull();
    expect(sheet.announcement.value).toContain(
      t("notUndoneBecauseSomeoneElseHas", { names: "ada" }),
    );
  });

  it("asks no longer about what was put right", async () => {
    const { page } = new World();
    const [ada] = PLACES as [Place];
    page.sheet.write([{ place: ada, entry: { typed: "7" } }]);
    await page.settle();
    expect(page.sheet.questions.value).toHaveLength(1);
    page.sheet.write([{ place: ada, entry: { typed: "12" } }]);
    await page.settle();
    expect(page.sheet.questions.value).toEqual([]);
    // Also where the question comes later than the correction is made.
    for (const typed of ["7", "18"]) page.sheet.write([{ place: ada, entry: { typed } }]);
    await page.settle();
    expect(page.sheet.counted(ada)).toBe("18");
    expect(page.sheet.questions.value).toEqual([]);
  });
});

describe("undo in a hall", () => {
  it("names up to three it took back in one press, and says how many of more", async () => {
    const server = new ClassServer(board());
    const page = await onPage(() => useTest(() => activity()));
    const undo = async (n: number) => {
      const rows = page.it.rows.value.slice(0, n);
      page.it.writeAll(rows.map((row) => ({ row, slot: 1, typed: "18" })));
      await sent();
      page.it.sheet.takeBack();
      const words = page.it.sheet.announcement.value;
      await sent();
      return words;
    };
    const undone = (child: string) => t("childUndone", { child });
    expect(await undo(2)).toBe(`${undone("Ada")}; ${undone("Ben")}.`);
    expect(await undo(4)).toBe(t("nScoreUndoneOthers", { n: 4, others: "" }, 4));
    expect(server.counts()).toEqual([]);
  });

  it("takes back what was done in another table that this one shows, and nothing else", async () => {
    localStorage.clear();
    const server = new ClassServer(board());
    const open = ref<"list" | "pairs" | "none">("list");
    const tables: Record<string, ReturnType<typeof useTest>> = {};
    const Table = (name: string, id: string) =>
      defineComponent(() => {
        tables[name] = useTest(() => activity({ id }));
        return () => null;
      });
    const shown = { list: Table("list", "reps"), pairs: Table("pairs", "reps"), none: null };
    const page = await onPage(
      () => undefined,
      "/lessons/lesson/hall",
      () => shown[open.value],
    );
    tables.list!.write(tables.list!.rows.value[0]!, 1, "18");
    await sent();
    open.value = "none";
    await settled();
    open.value = "pairs";
    await settled();
    tables.pairs!.sheet.takeBack();
    await sent();
    expect([server.counts(), tables.pairs!.sheet.announcement.value]).toEqual([
      [],
      `${t("childUndone", { child: "Ada" })}.`,
    ]);
    tables.pairs!.sheet.takeBack();
    expect(tables.pairs!.sheet.announcement.value).toBe(t("nothingToUndo"));
    page.leave();
  });
});
