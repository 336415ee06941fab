/** A teacher's own sound: it stays on this device, and what cannot be played is refused. */
import { t } from "../../messages/parts";
import Dexie from "dexie";
import { IDBKeyRange, indexedDB } from "fake-indexeddb";
import { expect, it, vi } from "vitest";

Dexie.dependencies = { indexedDB, IDBKeyRange };
vi.stubGlobal(
  "OfflineAudioContext",
  class {
    decodeAudioData = (bytes: ArrayBuffer) =>
      new TextDecoder().decode(bytes).startsWith("RIFF")
        ? Promise.resolve({ duration: 90 })
        : Promise.reject(new Error("no sound"));
  },
);
const { forgetSound, keepSound, soundOf } = await import("./music");

it("is kept for its block with its length, and forgotten with it", async () => {
  const kept = await keepSound("warm-up", new File(["RIFF and so on"], "dance.wav"));
  expect(kept).toEqual({ seconds: 90 });
  const found = await soundOf("warm-up");
  expect([found?.name, new TextDecoder().decode(found?.bytes)]).toEqual([
    ...["dance.wav", "RIFF and so on"],
  ]);
  await forgetSound("warm-up");
  expect(await soundOf("warm-up")).toBeUndefined();
});

it("says what is taken where it cannot be played, and leaves what was there", async () => {
  await keepSound("cool-down", new File(["RIFF"], "calm.wav"));
  await expect(keepSound("cool-down", new File(["text"], "notes.txt"))).rejects.toThrow(
    t("thisDeviceCannotPlayFileChoose", { file: "notes.txt" }),
  );
  expect((await soundOf("cool-down"))?.name).toBe("calm.wav");
});
