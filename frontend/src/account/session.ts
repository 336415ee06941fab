/** Who is signed in. */
import { defineStore } from "pinia";
import { answer, ApiError, client, type Schemas } from "../api/client";
import { forgetHalf } from "../people/listDraft";
import { forgetDrafts } from "../parts/form/useDraft";
import { useSync } from "../sync/useSync";
import { keepTo, ownTime } from "../parts/time/timeSource";

export const useSession = defineStore("session", {
  state: () => ({
    person: null as Schemas["Person"] | null,
    setupNeeded: false,
    demoSignIns: [] as Schemas["DemoSignIn"][],
    standIns: false,
    asked: false,
    unreachable: false,
  }),
  actions: {
    take(session: Schemas["Session"]) {
      this.person = session.person;
      this.setupNeeded = session.setup_needed;
      this.demoSignIns = session.demo_sign_ins;
      this.standIns = session.stand_ins;
      this.asked = true;
      this.unreachable = false;
      useSync().signedIn(session.person?.id ?? null);
    },
    /** Ask once; a dead network leaves the page usable with what it has. */
    async ensure() {
      if (this.asked) return;
      try {
        const askedAt = ownTime();
        const session = await answer(client.GET("/api/session"));
        keepTo(session.now_ms, askedAt, ownTime());
        this.take(session);
      } catch (error) {
        if (!(error instanceof ApiError) || error.status !== 0) throw error;
        this.unreachable = true;
      }
    },
    /** Whether the code of a second factor is still wanted. */
    async signIn(username: string, password: string, code = ""): Promise<boolean> {
      const body = { username, password, code };
      const session = await answer(client.POST("/api/session", { body }));
      if (!session.code_needed) this.take(session);
      return session.code_needed;
    },
    async setUp(body: Schemas["SetUp"]) {
      this.take(await answer(client.POST("/api/setup", { body })));
    },
    async setUpFrom(body: Schemas["PackedSetUp"]) {
      this.take(await answer(client.POST("/api/setup/package", { body })));
    },
    async signOut() {
      await answer(client.DELETE("/api/session"));
      forgetHalf();
      forgetDrafts();
      this.asked = false;
      await this.ensure();
    },
  },
});
