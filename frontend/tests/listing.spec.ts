import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import { computed, defineComponent, nextTick } from "vue";
import { createMemoryHistory, createRouter } from "vue-router";
import { found, useListing } from "../src/useListing";

const rows = Array.from({ length: 200 }, (_, n) => ({ title: `Exercise ${n + 1}`, away: n % 10 === 0 }));

describe("finding in a list", () => {
  it.each([
    ["zoe", ["Zoë O'Brien"]],
    ["BRIEN zo", ["Zoë O'Brien"]],
    ["", ["Zoë O'Brien", "Max Ash"]],
    ["nobody", []],
  ])("finds %s", (words, names) => {
    expect(found(["Zoë O'Brien", "Max Ash"], (n) => n, words)).toEqual(names);
  });
});

async function mounted(query = "") {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: "/", component: { template: "<p/>" } }],
  });
  await router.push(`/${query}`);
  let list!: ReturnType<typeof useListing<(typeof rows)[number]>>;
  mount(
    defineComponent({
      setup() {
        list = useListing(
          computed(() => rows),
          {
            textOf: (r) => r.title,
            per: 24,
            filters: { which: { otherwise: "here", passes: (r, v) => r.away === (v === "away") } },
          },
        );
        return () => null;
      },
    }),
    { global: { plugins: [router] } },
  );
  return { router, list };
}
const settled = async () => {
  await nextTick();
  await new Promise((done) => setTimeout(done, 5));
};

describe("a long list", () => {
  it("shows a page of it and says which", async () => {
    const { list, router } = await mounted();
    expect([list.count.value, list.pages.value, list.shown.value.length]).toEqual([180, 8, 24]);
    list.page.value = 8;
    await settled();
    expect([list.first.value, list.shown.value.length]).toEqual([168, 12]);
    expect(router.currentRoute.value.query).toEqual({ page: "8" });
  });

  it("stands in the address, and begins anew where something else is looked for", async () => {
    const { list, router } = await mounted("?page=3&which=away&kept=1");
    expect(list.count.value).toBe(20);
    expect(list.page.value).toBe(1);
    list.find.value = "exercise 11";
    await settled();
    expect(list.shown.value.map((r) => r.title)).toEqual(["Exercise 11", "Exercise 111"]);
    expect(router.currentRoute.value.query).toEqual({ which: "away", kept: "1", find: "exercise 11" });
    list.filter("which").value = "here";
    await settled();
    expect(router.currentRoute.value.query).toEqual({ kept: "1", find: "exercise 11" });
  });
});
