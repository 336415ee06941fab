/** Who is signed in. */
import { defineStore } from "pinia";
import { answer, ApiError, client, type Schemas } from "../api/client";
import { forgetHalf } from "../people/listDraft";
import { forgetDrafts } from "../parts/form/useDraft";
import { isForAll, whileBusy } from "../sync/policy";
import { guestHere } from "../sync/guestHere";
import { forgetPages } from "../sync/useKeptPages";
import { useSync } from "../sync/useSync";
import { keepTo, ownTime } from "../parts/time/timeSource";

/** Who is signed in, for when the server cannot be asked. */
const KNOWN = "lauf.person";
/** Somebody signed out without network: the server is still to be told. */
const SIGNING_OUT = "lauf.signing-out";
/** A network that neither answers nor fails is no network. */
const LONGEST_ANSWER_MS = 5_000;

function known(): Schemas["Person"] | null {
  const kept = localStorage.getItem(KNOWN);
  return kept ? (JSON.parse(kept) as Schemas["Person"]) : null;
}

/** A server that knows nobody any more refuses it: then there is nothing left to end. */
async function tellSignedOut(signal: AbortSignal): Promise<void> {
  try {
    await answer(client.DELETE("/api/session", { signal }));
  } catch (error) {
    if (!(error instanceof ApiError) || isForAll(error)) throw error;
    // The token may have grown old: once more with the one that the session brings.
    await answer(client.GET("/api/session", { signal }));
    await answer(client.DELETE("/api/session", { signal })).catch((again: unknown) => {
      if (!(again instanceof ApiError) || again.status !== 401) throw again;
    });
  }
  localStorage.removeItem(SIGNING_OUT);
}

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
      if (session.person) localStorage.setItem(KNOWN, JSON.stringify(session.person));
      else if (localStorage.getItem(KNOWN)) void this.forgetPerson();
      useSync().signedIn(session.person?.id ?? guestHere());
    },
    /** Ask once; without network it is who was signed in on this device. */
    async ensure() {
      if (this.asked) return;
      try {
        const signal = AbortSignal.timeout(LONGEST_ANSWER_MS);
        if (localStorage.getItem(SIGNING_OUT)) await tellSignedOut(signal);
        const askedAt = ownTime();
        const session = await answer(client.GET("/api/session", { signal }));
        keepTo(session.now_ms, askedAt, ownTime());
        this.take(session);
      } catch (error) {
        if (!(error instanceof ApiError) || error.status !== 0) throw error;
        if (localStorage.getItem(SIGNING_OUT)) return;
        this.unreachable = true;
        this.person ??= known();
        useSync().signedIn(this.person?.id ?? guestHere());
      }
    },
    /** What was read for a person goes from this device; scores that are not sent stay. */
    async forgetPerson() {
      localStorage.removeItem(KNOWN);
      await forgetPages();
    },
    /** Somebody is in once the session says who; before that a code or a school may be wanted. */
    async signIn(body: Schemas["SignIn"]): Promise<Schemas["Session"]> {
      const session = await whileBusy(() => answer(client.POST("/api/session", { body })));
      localStorage.removeItem(SIGNING_OUT);
      if (session.person) this.take(session);
      return session;
    },
    async setUp(body: Schemas["SetUp"]) {
      this.take(await answer(client.POST("/api/setup", { body })));
    },
    async setUpFrom(body: Schemas["PackedSetUp"]) {
      this.take(await answer(client.POST("/api/setup/package", { body })));
    },
    /**
     * Without network the device forgets at once, and the server is told when it can be. First
     * nobody is signed in, then their pages go: an answer that comes meanwhile is kept for nobody.
     */
    async signOut() {
      localStorage.setItem(SIGNING_OUT, "yes");
      this.person = null;
      this.asked = false;
      useSync().signedIn(null);
      forgetHalf();
      forgetDrafts();
      await this.forgetPerson();
      await this.ensure();
    },
  },
});
