/** A PDF on its way: begun, asked after, and there to be saved. */
import { t } from "../../messages/parts";
import { computed, onBeforeUnmount, ref } from "vue";
import { answer, ApiError, client, type Schemas } from "../../api/client";

type Handout = Schemas["Handout"];
const EVERY_MS = 400;

export function useHandout() {
  const current = ref<Handout | null>(null);
  const problem = ref("");
  const beginning = ref(false);
  let timer = 0;

  /** Begin one; a second press while one is on its way does nothing. */
  async function begin(make: () => Promise<Handout>) {
    if (busy.value) return;
    problem.value = "";
    current.value = null;
    beginning.value = true;
    try {
      current.value = await make();
      ask();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      problem.value = error.message;
    } finally {
      beginning.value = false;
    }
  }
  function ask() {
    const one = current.value;
    if (!one || one.ready || one.problem) return;
    timer = window.setTimeout(() => void look(one.id), EVERY_MS);
  }
  async function look(id: string) {
    try {
      const params = { path: { handout_id: id } };
      current.value = await answer(client.GET("/api/handouts/{handout_id}", { params }));
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      // Without a network it goes on being made; a server that was started anew has forgotten it.
      if (error.status === 404) {
        current.value = null;
        problem.value = t("theServerRestartedWhileTheFile");
      }
    }
    ask();
  }
  onBeforeUnmount(() => window.clearTimeout(timer));
  const busy = computed(
    () =>
      beginning.value || Boolean(current.value && !current.value.ready && !current.value.problem),
  );
  return { current, problem, busy, begin };
}
