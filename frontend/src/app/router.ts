import { t } from "../messages/app";
import { createRouter, createWebHistory, type RouteLocation } from "vue-router";
import { useSession } from "../account/session";
import { WAYS } from "../sheet/ways";
import { guestHere } from "../sync/guestHere";
import { startPages } from "../sync/useKeptPages";
import { useSync } from "../sync/useSync";
import { queries } from "./queries";

/** To the hall of the same lesson, with what it is to show. */
function inHall(more: Record<string, string>) {
  return (to: RouteLocation) => ({
    name: "hall",
    params: to.params,
    query: { ...to.query, ...more },
  });
}

export const router = createRouter({
  history: createWebHistory("/"),
  // eslint-disable-next-line @typescript-eslint/no-deprecated -- its successor is an experiment
  scrollBehavior: (_to, _from, kept) => kept ?? { top: 0 },
  routes: [
    { path: "/", name: "today", component: () => import("../progress/Today.vue") },
    { path: "/sign-in", name: "sign-in", component: () => import("../account/SignIn.vue") },
    { path: "/set-up", name: "set-up", component: () => import("../school/RestoreSchool.vue") },
    { path: "/classes", name: "classes", component: () => import("../people/Classes.vue") },
    {
      path: "/classes/list",
      name: "people-list",
      component: () => import("../people/ListImport.vue"),
    },
    {
      path: "/classes/:classId",
      name: "class",
      props: true,
      component: () => import("../progress/ClassBoard.vue"),
    },
    { path: "/classes/:classId/board", redirect: (to) => ({ name: "class", params: to.params }) },
    {
      path: "/classes/:classId/list",
      name: "class-list",
      props: true,
      component: () => import("../people/ClassPage.vue"),
    },
    {
      path: "/classes/:classId/next",
      name: "class-next",
      props: true,
      component: () => import("../progress/Suggestions.vue"),
    },
    {
      path: "/classes/:classId/hand-outs",
      name: "handouts",
      props: true,
      component: () => import("../exchange/Handouts.vue"),
    },
    {
      path: "/school/picture",
      name: "school-picture",
      component: () => import("../progress/SchoolPicture.vue"),
    },
    {
      path: "/pupils/:pupilId/own",
      name: "own",
      props: true,
      component: () => import("../progress/OwnPage.vue"),
    },
    {
      path: "/own",
      name: "own-code",
      component: () => import("../progress/OwnPage.vue"),
    },
    {
      path: "/pupils/:pupilId",
      name: "pupil",
      props: true,
      component: () => import("../progress/Pupil.vue"),
    },
    {
      path: "/catalogue",
      name: "catalogue",
      component: () => import("../catalogue/Catalogue.vue"),
    },
    {
      path: "/tests/new",
      name: "new-test",
      component: () => import("../catalogue/ProtocolEdit.vue"),
    },
    {
      path: "/tests/:testId",
      name: "test",
      props: true,
      component: () => import("../catalogue/ProtocolCard.vue"),
    },
    {
      path: "/tests/:testId/edit",
      name: "edit-test",
      props: true,
      component: () => import("../catalogue/ProtocolEdit.vue"),
    },
    {
      path: "/tests/:testId/copy",
      name: "copy-test",
      props: (to) => ({ testId: to.params.testId, copy: true }),
      component: () => import("../catalogue/ProtocolEdit.vue"),
    },
    {
      path: "/tests/:testId/benchmarks",
      name: "benchmarks",
      props: true,
      component: () => import("../catalogue/Benchmarks.vue"),
    },
    {
      path: "/batteries",
      name: "batteries",
      component: () => import("../catalogue/Batteries.vue"),
    },
    { path: "/challenges", name: "challenges", component: () => import("../challenges/Weeks.vue") },
    { path: "/games", name: "games", component: () => import("../challenges/Games.vue") },
    {
      path: "/games/:gamesId",
      name: "one-games",
      props: true,
      component: () => import("../challenges/OneGames.vue"),
    },
    {
      path: "/challenges/warm-up",
      name: "warm-up",
      component: () => import("../challenges/WarmUp.vue"),
    },
    {
      path: "/challenges/weeks/:weekId",
      name: "week",
      props: true,
      component: () => import("../challenges/Week.vue"),
    },
    {
      path: "/challenges/weeks/:weekId/goes",
      name: "goes",
      props: true,
      component: () => import("../challenges/Goes.vue"),
    },
    {
      path: "/challenges/weeks/:weekId/set",
      name: "set",
      props: true,
      component: () => import("../challenges/SetSheet.vue"),
    },
    {
      path: "/challenges/weeks/:weekId/wall",
      name: "week-wall",
      props: true,
      component: () => import("../challenges/WeekWall.vue"),
    },
    {
      path: "/challenges/series/:classId",
      name: "series",
      props: true,
      component: () => import("../challenges/Series.vue"),
    },
    {
      path: "/challenges/:challengeId",
      name: "challenge",
      props: true,
      component: () => import("../challenges/Challenge.vue"),
    },
    { path: "/laps", name: "laps", component: () => import("../catalogue/Laps.vue") },
    { path: "/mine", name: "mine", component: () => import("../challenges/mine/Mine.vue") },
    { path: "/help", name: "help", component: () => import("../lessons/help/Help.vue") },
    { path: "/welcome", name: "welcome", component: () => import("../account/Invitation.vue") },
    { path: "/account", name: "account", component: () => import("../account/Account.vue") },
    { path: "/school", name: "school", component: () => import("../school/School.vue") },
    { path: "/trust", name: "trust", component: () => import("../school/Trust.vue") },
    { path: "/school/begin", name: "begin", component: () => import("../school/FirstSteps.vue") },
    { path: "/school/move-up", name: "move-up", component: () => import("../school/MoveUp.vue") },
    {
      path: "/lessons/new",
      name: "new-lesson",
      component: () => import("../lessons/NewLesson.vue"),
    },
    {
      path: "/lessons/:lessonId/projector",
      name: "projector",
      props: true,
      component: () => import("../lessons/hall/Projector.vue"),
    },
    {
      path: "/lessons/:lessonId",
      props: true,
      component: () => import("../lessons/Lesson.vue"),
      children: [
        { path: "", redirect: inHall({}) },
        { path: "plan", name: "plan", component: () => import("../lessons/plan/Planner.vue") },
        { path: "hall", name: "hall", component: () => import("../lessons/hall/Hall.vue") },
        { path: "results", name: "results", component: () => import("../progress/Results.vue") },
        {
          path: "stations/:block(\\d+)",
          name: "stations",
          component: () => import("../lessons/hall/Stations.vue"),
        },
        // Addresses of before, kept in bookmarks: all of it is the hall's now.
        ...["run", "conduct", "capture"].map((path) => ({ path, redirect: inHall({}) })),
        ...WAYS.map(({ name }) => ({ path: name, redirect: inHall({ way: name }) })),
        { path: "grid", redirect: inHall({ block: "all" }) },
        { path: "pulse", redirect: inHall({ block: "pulses" }) },
        { path: "check", redirect: (to) => ({ name: "results", params: to.params }) },
      ],
    },
    { path: "/:rest(.*)*", name: "lost", component: () => import("./Lost.vue") },
  ],
});

const titles = (): Record<string, string> => ({
  today: t("today"),
  "sign-in": t("signIn"),
  "set-up": t("setUp"),
  classes: t("classes"),
  "people-list": t("importChildrenFromAList"),
  class: t("classBoard"),
  "class-list": t("class"),
  "class-next": t("whatNext"),
  handouts: t("handouts"),
  "school-picture": t("wholeSchool"),
  own: t("myPage"),
  "own-code": t("myPage"),
  pupil: t("child"),
  catalogue: t("catalogue"),
  "new-test": t("newTest"),
  test: t("test"),
  "edit-test": t("editATest"),
  "copy-test": t("copyATest"),
  benchmarks: t("benchmarks"),
  batteries: t("batteries"),
  challenges: t("challenges"),
  week: t("challengeWeek"),
  set: t("challengeSet"),
  series: t("weekByWeek"),
  "week-wall": t("wall"),
  challenge: t("challenge"),
  laps: t("laps"),
  "warm-up": t("warmUpGame"),
  school: t("school"),
  trust: t("trust"),
  begin: t("setUp"),
  "move-up": t("moveUpAYear"),
  welcome: t("welcome"),
  help: t("helpInALesson"),
  mine: t("myScores"),
  goes: t("childrensEntries"),
  account: t("yourAccount"),
  "new-lesson": t("newLesson"),
  projector: t("wall"),
  plan: t("plan"),
  hall: t("hall"),
  stations: t("stations"),
  results: t("results"),
  lost: t("pageNotFound"),
});
/** What a page is called, for the browser's tabs and for who hears it. */
export function titleOf(name: string): string {
  return titles()[name] ?? t("lauf");
}
router.afterEach((to) => {
  document.title = t("nameLauf", { name: titleOf(String(to.name)) });
});

router.beforeEach(async (to) => {
  const session = useSession();
  // What this device still keeps is there before a screen says what is missing.
  await session.ensure();
  if (session.person || session.unreachable || guestHere()) {
    await Promise.all([
      useSync().ready(),
      startPages(queries, () => session.person?.id ?? guestHere()).catch(() => undefined),
    ]);
  }
  if (session.setupNeeded) return to.name === "set-up" ? true : { name: "set-up" };
  // A link is its own way in, whoever is signed in on this device.
  if (["welcome", "own-code", "help", "mine"].includes(String(to.name))) return true;
  if (!session.person && !session.unreachable) {
    return to.name === "sign-in" ? true : { name: "sign-in", query: { to: to.fullPath } };
  }
  // Until the second factor is there, nothing else is open.
  if (session.person?.factor_missing && to.name !== "account") return { name: "account" };
  // The office of a trust has its schools, and no page of any child.
  if (session.person?.at_office && !["trust", "account"].includes(String(to.name))) {
    return { name: "trust" };
  }
  if (session.person && (to.name === "sign-in" || to.name === "set-up")) return { name: "today" };
  return true;
});
