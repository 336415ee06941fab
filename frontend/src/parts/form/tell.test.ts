import { expect, it } from "vitest";
import { putBack, tell, told } from "./tell";

it("tells the last thing that was done, and puts it back once however often it is pressed", async () => {
  let undone = 0;
  tell("Saved.");
  tell("Romy has left.", () => Promise.resolve((undone += 1)));
  expect(told.value?.words).toBe("Romy has left.");
  await Promise.all([putBack(), putBack()]);
  await putBack();
  expect([undone, told.value]).toEqual([1, { words: "Undone.", undo: null }]);
});

it("says why it cannot be put back, and tries again", async () => {
  let tries = 0;
  tell("Romy has left.", () => {
    tries += 1;
    return tries === 1 ? Promise.reject(new Error("No network.")) : Promise.resolve();
  });
  await putBack();
  expect(told.value?.words).toBe("No network.");
  await putBack();
  expect([tries, told.value?.words]).toEqual([2, "Undone."]);
});
