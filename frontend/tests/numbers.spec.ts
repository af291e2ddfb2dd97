// @vitest-environment node
import { describe, expect, it } from "vitest";
import { deviation, fixed, marks, plainNumber, shown, signed, typedNumber } from "../src/numbers";

describe("numbers", () => {
  it.each([
    [20, 3, "20.000"],
    [7.4375, 3, "≈7.438"],
    [-0.02, 3, "−0.020"],
    [-1e-13, 3, "0.000"],
    [12.345, 3, "12.345"],
  ])("shows %f with %i decimals as %s", (value, digits, text) => {
    expect(fixed(value, digits)).toBe(text);
  });

  it("signs deviations", () => {
    expect(signed(12, 3)).toBe("+12.000");
    expect(signed(-0.02, 3)).toBe("−0.020");
    expect(signed(0.01234, 3)).toBe("≈+0.012");
    expect(deviation(0.5, "angle", "mm")).toBe("+0.500°");
    expect(deviation(null, "layer", "mm")).toBe("");
  });

  it("shows values in the words of their kind", () => {
    expect(shown([12, 30.5], "position", "mm")).toBe("12.000, 30.500");
    expect(shown(1.5, "length", "in")).toBe("1.5000");
    expect(shown(null, "length", "mm")).toBe("–");
    expect(shown("outline", "layer", "mm")).toBe("outline");
  });

  it("gives marks two decimals, and more only where they are finer", () => {
    expect(marks(71.5)).toBe("71.50");
    expect(marks(0.0123)).toBe("0.0123");
  });

  it.each([
    ["0.001", false, 0.001],
    ["0,5", false, 0.5],
    [" 7 ", false, 7],
    [".5", false, 0.5],
    ["-1", false, -1],
    ["1/64", true, 1 / 64],
    ["4 5/8", true, 4.625],
    ["1/64", false, null],
    ["1/0", true, null],
    ["abc", true, null],
    ["1e3", false, null],
    ["", true, null],
    ["0x10", false, null],
  ])("reads %s as typed, fractions %s", (text, fractions, value) => {
    expect(typedNumber(text, fractions)).toBe(value);
  });

  it("writes numbers as they are typed", () => {
    expect([0.1 + 0.2, 1e-4, 0, null].map(plainNumber)).toEqual(["0.3", "0.0001", "0", ""]);
  });
});
