import { expect, it } from "vitest";
import { ref } from "vue";
import { leave, onPage, settled } from "../testing/page";
import { useKeptByGo } from "./useKeptByGo";

const go = ref("1");
async function begin() {
  const page = await onPage(() => useKeptByGo("lauf.kept", () => go.value, "none"));
  return page.it;
}

it("keeps what is begun in the moment in which another go comes on", async () => {
  const kept = await begin();
  kept.value = "first";
  go.value = "2";
  expect(kept.value).toBe("none");
  kept.value = "second";
  await settled();
  expect(kept.value).toBe("second");
  go.value = "1";
  expect(kept.value).toBe("first");
  leave();
  const again = await begin();
  expect(again.value).toBe("first");
});
