/** Settings of the school: what was kept shows at once, and everything else is asked for anew. */
import { createPinia, setActivePinia } from "pinia";
import { useQuery } from "@tanstack/vue-query";
import { expect, it } from "vitest";
import { answer, client } from "../api/client";
import { useSession } from "../account/session";
import { onPage, settled } from "../testing/page";
import { Refused, TestServer } from "../testing/server";
import { useSchool, useSetting } from "./useSchool";

async function begin() {
  setActivePinia(createPinia());
  const server = new TestServer();
  server.on("GET", "/api/school", () => ({ name: "Fern Hill" }));
  server.on("GET", "/api/tests", () => []);
  server.on("GET", "/api/session", () => ({ person: { id: "robin", name: "Robin" } }));
  const page = await onPage(() => ({
    school: useSchool(),
    tests: useQuery({ queryKey: ["tests"], queryFn: () => answer(client.GET("/api/tests")) }),
    setting: useSetting((name: string) =>
      name
        ? Promise.resolve({ name } as never)
        : Promise.reject(new Refused(422, { message: "It needs a name." })),
    ),
  }));
  return { server, ...page.it };
}

it("shows what was kept, without asking for it again", async () => {
  const { server, school, setting } = await begin();
  await setting.mutateAsync("Oak Lane");
  await settled();
  expect(school.data.value?.name).toBe("Oak Lane");
  expect(server.asked.map((one) => one.path).sort()).toEqual([
    ...["/api/school", "/api/session", "/api/tests", "/api/tests"],
  ]);
  expect(useSession().person?.name).toBe("Robin");
});

it("leaves everything as it was where it was not taken", async () => {
  const { server, school, setting } = await begin();
  await expect(setting.mutateAsync("")).rejects.toThrow();
  expect([school.data.value?.name, server.asked.length]).toEqual(["Fern Hill", 2]);
});
