/** What is typed while presses are worked out stands behind what each of them says. */
import { describe, expect, it } from "vitest";
import { usePresses } from "../src/board/usePresses";

describe("presses that are being worked out", () => {
  it("know what stood there and what was typed behind each", () => {
    const presses = usePresses();
    const one = presses.begin();
    presses.typed("chain ", "chain 1", 7);
    presses.typed("chain 1", "chain 12", 8);
    const two = presses.begin();
    presses.typed("chain 12", "chain 127", 9);
    expect(presses.stood(one, "chain 127")).toEqual({ says: "chain ", behind: "12", later: "7" });
    presses.end(one);
    expect(presses.stood(two, "chain 0, 0; right 12; 7")).toEqual({
      says: "chain 0, 0; right 12; ",
      behind: "7",
      later: "",
    });
  });
  it("take the line as it is where it was changed otherwise", () => {
    const presses = usePresses();
    const one = presses.begin();
    presses.typed("chain ", "chain 1", 7);
    presses.typed("chain 1", "chain", 5);
    expect(presses.stood(one, "chain")).toEqual({ says: "chain", behind: "", later: "" });
    expect(presses.any()).toBe(true);
    presses.end(one);
    expect(presses.any()).toBe(false);
  });
});
