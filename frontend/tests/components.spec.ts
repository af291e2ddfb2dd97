import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import { nextTick } from "vue";
import ChoiceRow from "../src/components/ChoiceRow.vue";
import FileDrop from "../src/components/FileDrop.vue";
import InspectionList, { type Row } from "../src/components/InspectionList.vue";
import NumberField from "../src/components/NumberField.vue";
import PageSteps from "../src/components/PageSteps.vue";
import ToldList from "../src/components/ToldList.vue";

const row = (id: number, more: Partial<Row> = {}): Row => ({
  id,
  kind: "length",
  name: `Edge ${id}, length`,
  verdict: "missed",
  expected: 20,
  measured: 21.5,
  deviation: 1.5,
  earned: 0,
  possible: 2,
  ...more,
});

describe("a number that is typed", () => {
  it("stays as it was typed, and says at its field what was expected", async () => {
    const field = mount(NumberField, { props: { value: 0.001, most: 5, fractions: true } });
    await field.get("input").setValue("abc");
    expect(field.get("[role=alert]").text()).toContain("such as 0.001 or 1/64");
    expect((field.get("input").element as HTMLInputElement).value).toBe("abc");
    expect(field.emitted("set")).toBeUndefined();
    await field.get("input").setValue("1/64");
    expect(field.find("[role=alert]").exists()).toBe(false);
    expect(field.emitted("set")).toEqual([[1 / 64]]);
    await field.get("input").setValue("7");
    expect(field.get("[role=alert]").text()).toContain("from 0 to 5");
  });
});

describe("the inspection list", () => {
  const list = () =>
    mount(InspectionList, {
      props: {
        rows: [row(1), row(2, { kind: "position", expected: [3.625, 4], measured: null })],
        chosen: 1,
        unit: "in",
        numbers: true,
      },
    });

  it("shows values with all figures that matter", () => {
    expect(list().text()).toContain("3.6250, 4.0000");
    expect(list().text()).toContain("+1.5000");
  });

  it("says which row is pointed at, by pointer and by focus, and when none is any more", async () => {
    const wrapper = list();
    const second = wrapper.findAll("tbody tr")[1];
    await second?.trigger("mouseenter");
    await second?.trigger("mouseleave");
    await second?.get("button").trigger("focusin");
    await second?.get("button").trigger("focusout");
    expect(wrapper.emitted("point")).toEqual([[2], [null], [2], [null]]);
  });

  it("says that nothing answers to a filter", () => {
    const none = mount(InspectionList, { props: { rows: [], chosen: null, unit: "mm", numbers: false } });
    expect(none.text()).toContain("No finding matches this filter.");
  });
});

describe("files on their way", () => {
  it("say how far they are and can be stopped", async () => {
    const drop = mount(FileDrop, { props: { label: "Choose", busy: true, share: 0.456 } });
    expect(drop.get("[role=status]").text()).toBe("Sending … 45 %");
    await drop.get("button").trigger("click");
    expect(drop.emitted("stop")).toHaveLength(1);
    await drop.setProps({ share: 1 });
    expect(drop.get("[role=status]").text()).toBe("Reading …");
  });

  it("are taken once, and none while others are on their way", async () => {
    const drop = mount(FileDrop, { props: { label: "Choose" } });
    const file = new File(["x"], "a.dxf");
    await drop.trigger("drop", { dataTransfer: { files: [file] } });
    expect(drop.emitted("file")).toEqual([[file]]);
    await drop.setProps({ busy: true });
    await drop.trigger("drop", { dataTransfer: { files: [file] } });
    expect(drop.emitted("file")).toHaveLength(1);
  });
});

describe("pages of a list", () => {
  it("go on and back, and no further than there is", async () => {
    const steps = mount(PageSteps, { props: { modelValue: 1, first: 0, shown: 24, count: 50, pages: 3 } });
    expect(steps.text()).toContain("1 to 24 of 50");
    const [before, after] = steps.findAll("button");
    expect(before?.attributes("disabled")).toBeDefined();
    await after?.trigger("click");
    expect(steps.emitted("update:modelValue")).toEqual([[2]]);
  });
});

describe("a row of choices", () => {
  it("has a name for those who hear it, and a role for each choice", async () => {
    const choices = [
      { value: "a", word: "One" },
      { value: "b", word: "Two" },
    ] as const;
    const rowOf = mount(ChoiceRow, {
      props: { label: "Which", choices, modelValue: "a" },
      attachTo: document.body,
    });
    await nextTick();
    expect(rowOf.get("[role=radiogroup]").attributes("aria-labelledby")).toBeTruthy();
    expect(rowOf.findAll("[role=radio]")).toHaveLength(2);
    rowOf.unmount();
  });
});

describe("what students are told", () => {
  const work = {
    unit: "in",
    any_unit: false,
    placement: "slide",
    tolerances: { length: 0.0001, position: 0.002, angle_deg: 0.01 },
    exact_layers: true,
    layers: [
      {
        name: "outline",
        role: "outline",
        colour: "red (DXF 1)",
        swatch: "#ff0000",
        line_type: "continuous",
        weight: 0.5,
      },
      { name: "notes", role: null, colour: null, swatch: null, line_type: null, weight: null },
    ],
    marked: [{ title: "Lengths", marks: 40 }],
    charged: ["Each extra object or duplicate: 1, together at most 25"],
  } as never;

  it("has layers with their looks, exactness, and what earns marks", () => {
    const text = mount(ToldList, { props: { work } }).text();
    for (const said of [
      "red (DXF 1)",
      "0.5 mm",
      "±0.0001 in, positions ±0.002 in, ±0.01°, on the true geometry",
      "a file in another unit counts as wrong",
      "names exactly as here",
      "any",
      "Lengths",
    ])
      expect(text).toContain(said);
  });
});
