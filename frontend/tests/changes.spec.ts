// @vitest-environment node
import { describe, expect, it } from "vitest";
import { about, changesBetween, contested, withChanges, type Content } from "../src/changes";
import type { Requirement, Rules } from "../src/rules";

const one = (id: number, on = true, weight = 1): Requirement => ({
  id,
  kind: "length",
  name: `Edge ${id} length`,
  features: [`e${id}`],
  layer: null,
  weight,
  tolerance: null,
  near: null,
  on,
  marks: 2.5,
  expected: 10,
});
const content = (more: Partial<Content> = {}, rules: Partial<Rules> = {}): Content => ({
  title: "Plate",
  text: "",
  rules: {
    unit: "mm",
    placement: "slide",
    tolerances: { length: 0.001, position: 0.001, angle_deg: 0.01, near: 0.5 },
    near_share: 0.5,
    marks: 10,
    any_unit: true,
    exact_layers: false,
    unit_charge: 0,
    roles: { outline: "outline" },
    requirements: [one(1), one(2), one(3)],
    ...rules,
  },
  ...more,
});

describe("changes", () => {
  it("are told value by value, without what the server derives", () => {
    const before = content();
    const after = content(
      { title: "Gate" },
      { requirements: [{ ...one(1), marks: 9 }, one(2, false), one(3, true, 4)] },
    );
    expect(changesBetween(before, after).map((c) => c.path.join("."))).toEqual([
      "title",
      "rules.requirements.2.on",
      "rules.requirements.3.weight",
    ]);
    expect(changesBetween(before, before)).toEqual([]);
  });

  it("of two people are laid over each other", () => {
    const base = content();
    const ours = changesBetween(base, content({}, { requirements: [one(1, false), one(2), one(3)] }));
    const theirs = content({ title: "Gate" }, { near_share: 0.25 });
    const both = withChanges(theirs, ours);
    expect([both.title, both.rules.near_share, both.rules.requirements[0]?.on]).toEqual([
      "Gate",
      0.25,
      false,
    ]);
    expect(contested(ours, changesBetween(base, theirs))).toEqual([]);
  });

  it("of the same value are asked about", () => {
    const base = content();
    const ours = changesBetween(base, content({ title: "Mine" }, { near_share: 0.3 }));
    const theirs = changesBetween(base, content({ title: "Theirs" }, { near_share: 0.3 }));
    expect(contested(ours, theirs).map((c) => c.path)).toEqual([["title"]]);
    expect(about(ours, base.rules)).toBe("the title, marks for near");
  });

  it("undo as they were done, nested values and removed ones too", () => {
    const before = content();
    const after = content({}, { roles: { outline: "frame", hidden: "hidden" } });
    expect(changesBetween(withChanges(after, changesBetween(after, before)), before)).toEqual([]);
  });

  it("of a check that is gone change nothing", () => {
    const ours = changesBetween(content(), content({}, { requirements: [one(1), one(2), one(3, false)] }));
    const fewer = content({}, { requirements: [one(1)] });
    expect(withChanges(fewer, ours).rules.requirements).toEqual([one(1)]);
  });
});
