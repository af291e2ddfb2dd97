import { setPlace } from "./title";
import { createRouter, createWebHistory } from "vue-router";
import { findSession } from "./session";

type Role = "instructor" | "student";
declare module "vue-router" {
  interface RouteMeta {
    role?: Role;
    title: string;
  }
}

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
  routes: [
    {
      path: "/",
      name: "home",
      component: () => import("./pages/SignInPage.vue"),
      meta: { title: "Even Mark" },
    },
    {
      path: "/sign-in",
      name: "sign-in",
      component: () => import("./pages/SignInPage.vue"),
      meta: { title: "Sign in" },
    },
    {
      path: "/join",
      name: "join",
      component: () => import("./pages/JoinPage.vue"),
      meta: { title: "Join a class" },
    },
    {
      path: "/first/:code?",
      name: "first",
      component: () => import("./pages/FirstCodePage.vue"),
      meta: { title: "Choose a password" },
    },
    {
      path: "/account",
      name: "account",
      component: () => import("./pages/AccountPage.vue"),
      meta: { title: "Account" },
    },
    {
      path: "/desk",
      name: "desk",
      component: () => import("./pages/DeskPage.vue"),
      meta: { role: "instructor", title: "Desk" },
    },
    {
      path: "/exercises",
      name: "exercises",
      component: () => import("./pages/ExercisesPage.vue"),
      meta: { role: "instructor", title: "Exercises" },
    },
    {
      path: "/exercises/:id(\\d+)",
      name: "exercise",
      component: () => import("./pages/ExercisePage.vue"),
      meta: { role: "instructor", title: "Exercise" },
    },
    {
      path: "/classes",
      name: "classes",
      component: () => import("./pages/ClassesPage.vue"),
      meta: { role: "instructor", title: "Classes" },
    },
    {
      path: "/classes/:id(\\d+)",
      name: "class",
      component: () => import("./pages/ClassPage.vue"),
      meta: { role: "instructor", title: "Class" },
    },
    {
      path: "/classes/:id(\\d+)/slips",
      name: "slips",
      component: () => import("./pages/SlipsPage.vue"),
      meta: { role: "instructor", title: "Sign-in cards" },
    },
    {
      path: "/record",
      name: "record",
      component: () => import("./pages/RecordPage.vue"),
      meta: { role: "instructor", title: "Record" },
    },
    {
      path: "/issues/:id(\\d+)",
      name: "results",
      component: () => import("./pages/ResultsPage.vue"),
      meta: { role: "instructor", title: "Class results" },
    },
    {
      path: "/issues/:id(\\d+)/hand-in",
      name: "hand-in",
      component: () => import("./pages/HandInPage.vue"),
      meta: { role: "instructor", title: "Hand in for a class" },
    },
    {
      path: "/batches/:id(\\d+)",
      name: "batch",
      component: () => import("./pages/BatchPage.vue"),
      meta: { role: "instructor", title: "Hand in for a class" },
    },
    {
      path: "/marking/:id(\\d+)/made",
      name: "made",
      component: () => import("./pages/HowMadePage.vue"),
      meta: { role: "instructor", title: "How it was made" },
    },
    {
      path: "/marking/:id(\\d+)",
      name: "marking",
      component: () => import("./pages/MarkingPage.vue"),
      meta: { role: "instructor", title: "Marking" },
    },
    {
      path: "/work",
      name: "work",
      component: () => import("./pages/WorkPage.vue"),
      meta: { role: "student", title: "My work" },
    },
    {
      path: "/work/:id(\\d+)",
      name: "task",
      component: () => import("./pages/TaskPage.vue"),
      meta: { role: "student", title: "Exercise" },
    },
    {
      path: "/boards/:id(\\d+)",
      name: "board",
      component: () => import("./pages/BoardPage.vue"),
      meta: { title: "Board" },
    },
    {
      path: "/results/:id(\\d+)",
      name: "result",
      component: () => import("./pages/OwnResultPage.vue"),
      meta: { role: "student", title: "Result" },
    },
    {
      path: "/:path(.*)*",
      name: "nowhere",
      component: () => import("./pages/NowherePage.vue"),
      meta: { title: "Nothing here" },
    },
  ],
});

router.afterEach((to, from) => {
  if (to.path !== from.path) setPlace(String(to.meta.title));
});

export function homeOf(role: Role): { name: string } {
  return { name: role === "instructor" ? "desk" : "work" };
}

router.beforeEach(async (to) => {
  const person = await findSession().catch(() => null);
  if (to.name === "home" || to.name === "sign-in") return person ? homeOf(person.role) : true;
  if ((to.meta.role || to.name === "account") && !person)
    return { name: "sign-in", query: { to: to.fullPath } };
  if (to.meta.role && person && to.meta.role !== person.role) return homeOf(person.role);
  return true;
});
