/** Who is signed in: asked once, and nothing of them is left on the device afterwards. */
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, expect, it, vi } from "vitest";
import { rememberHalf } from "../people/listDraft";
import { useSync } from "../sync/useSync";
import { onPage } from "../testing/page";
import { Refused, TestServer } from "../testing/server";
import { useSession } from "./session";

const SECRET = { username: "robin", password: "secret" };
const ROBIN = { id: "robin", name: "Robin Ashgrove" };
const sessionOf = (person: typeof ROBIN | null, more = {}) => ({
  ...{ person, setup_needed: false, demo_sign_ins: [], stand_ins: false, now_ms: Date.now() },
  ...{ code_needed: false, posts: [], ...more },
});
beforeEach(() => {
  sessionStorage.clear();
  localStorage.clear();
  setActivePinia(createPinia());
});

async function begin() {
  await onPage(() => undefined);
  return { server: new TestServer(), session: useSession() };
}

it("is asked for once", async () => {
  const { server, session } = await begin();
  server.on("GET", "/api/session", () => sessionOf(ROBIN));
  await session.ensure();
  await session.ensure();
  expect([session.person?.name, server.asked.length]).toEqual(["Robin Ashgrove", 1]);
});

it("leaves the page usable without a network, and fails where the server is wrong", async () => {
  const { server, session } = await begin();
  server.down = true;
  await session.ensure();
  expect([session.unreachable, session.asked]).toEqual([true, false]);
  server.down = false;
  server.on("GET", "/api/session", () => {
    throw new Refused(500);
  });
  await expect(session.ensure()).rejects.toThrow();
  server.on("GET", "/api/session", () => sessionOf(null, { setup_needed: true }));
  await session.ensure();
  expect([session.unreachable, session.setupNeeded]).toEqual([false, true]);
});

it("takes nobody in before the code of the second factor", async () => {
  const { server, session } = await begin();
  server.on("POST", "/api/session", ({ body }) =>
    (body as { code: string }).code ? sessionOf(ROBIN) : sessionOf(null, { code_needed: true }),
  );
  const asked = await session.signIn({ ...SECRET, code: "" });
  expect([asked.code_needed, session.person]).toEqual([true, null]);
  expect((await session.signIn({ ...SECRET, code: "123456" })).code_needed).toBe(false);
  expect(session.person?.id).toBe("robin");
  // What is written from now on is written by that person.
  await useSync().put({ kind: "run", id: "x", lane: "x", at: "reps", body: {} as never });
  expect(useSync().mine.value.map((one) => one.by)).toEqual(["robin"]);
  useSync().dismiss("x");
});

it("takes nobody in who works in two schools before one is chosen", async () => {
  const { server, session } = await begin();
  const posts = [
    { id: "robin", school: "Harbour" },
    { id: "robin-2", school: "Hill" },
  ];
  server.on("POST", "/api/session", ({ body }) =>
    (body as { post?: string }).post
      ? sessionOf({ ...ROBIN, id: "robin-2" })
      : sessionOf(null, { posts }),
  );
  const asked = await session.signIn({ ...SECRET, code: "" });
  expect([asked.posts.length, session.person]).toEqual([2, null]);
  await session.signIn({ ...SECRET, code: "", post: "robin-2" });
  expect(session.person?.id).toBe("robin-2");
});

it("asks again while the server is too busy to look at a password", async () => {
  const { server, session } = await begin();
  let busy = 0;
  server.on("POST", "/api/session", () => {
    if (busy > 0) {
      busy -= 1;
      throw new Refused(503, { message: "It tries again." });
    }
    return sessionOf(ROBIN);
  });
  vi.useFakeTimers({ toFake: ["setTimeout"] });
  for (const [times, said] of [
    [3, "robin"],
    [4, "It tries again."],
  ] as const) {
    busy = times;
    const asked = session.signIn({ ...SECRET, code: "" }).then(
      (one) => one.person?.id,
      (error: unknown) => (error as Error).message,
    );
    await vi.advanceTimersByTimeAsync(60_000);
    expect([await asked, busy]).toEqual([said, 0]);
  }
  vi.useRealTimers();
});

it("forgets what was half done with whoever signs out", async () => {
  const { server, session } = await begin();
  server.on("POST", "/api/session", () => sessionOf(ROBIN));
  server.on("DELETE", "/api/session", () => ({}));
  server.on("GET", "/api/session", () => sessionOf(null));
  await session.signIn({ ...SECRET, code: "" });
  rememberHalf({ given: { text: "Ada", data: "", file_name: "" }, answers: {}, leavers: [] });
  sessionStorage.setItem("lauf.draft.child", "{}");
  await session.signOut();
  const left = Object.keys(sessionStorage).filter((one) => one.startsWith("lauf."));
  expect([session.person, left]).toEqual([null, []]);
  expect(() => useSync().put({} as never)).toThrow("nobody is signed in");
});

it("is who was signed in on this device, where the server cannot be asked", async () => {
  const { server, session } = await begin();
  server.on("GET", "/api/session", () => sessionOf(ROBIN));
  await session.ensure();

  setActivePinia(createPinia());
  const later = useSession();
  server.down = true;
  await later.ensure();
  expect([later.person?.name, later.unreachable]).toEqual(["Robin Ashgrove", true]);
  // The server has the say as soon as it answers.
  server.down = false;
  server.on("GET", "/api/session", () => sessionOf(null));
  await later.ensure();
  expect([later.person, later.unreachable]).toEqual([null, false]);
  server.down = true;
  setActivePinia(createPinia());
  await useSession().ensure();
  expect(useSession().person).toBeNull();
});

it("signs out without network at once, and tells the server when it can", async () => {
  const { server, session } = await begin();
  server.on("GET", "/api/session", () => sessionOf(ROBIN));
  await session.ensure();
  server.down = true;
  const signedOut = session.signOut();
  // Before anything is waited for: what is answered while pages go is kept for nobody.
  expect(session.person).toBeNull();
  await signedOut;
  expect([session.person, session.unreachable]).toEqual([null, false]);

  setActivePinia(createPinia());
  const later = useSession();
  server.down = false;
  server.on("DELETE", "/api/session", () => {
    server.on("GET", "/api/session", () => sessionOf(null));
    return {};
  });
  await later.ensure();
  expect([server.of("DELETE", "session").length, later.person]).toEqual([1, null]);
});

it("is signed out where the server knows nobody any more when it is told", async () => {
  const { server, session } = await begin();
  server.on("GET", "/api/session", () => sessionOf(ROBIN));
  await session.ensure();
  server.down = true;
  await session.signOut();
  server.down = false;
  server.on("GET", "/api/session", () => sessionOf(null));
  server.on("DELETE", "/api/session", () => {
    throw new Refused(401);
  });
  await session.ensure();
  expect([session.person, session.asked]).toEqual([null, true]);
  expect(localStorage.getItem("lauf.signing-out")).toBeNull();
});
