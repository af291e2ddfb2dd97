// @vitest-environment node
import { describe, expect, it } from "vitest";
import { chainOf, inChains } from "../src/chains";

const findings = [
  { id: 1, follows: null },
  { id: 2, follows: 5 },
  { id: 3, follows: 5 },
  { id: 4, follows: null },
  { id: 5, follows: null },
];

describe("findings in chains", () => {
  it("puts followers right after what they follow", () => {
    expect(inChains(findings).map((f) => f.id)).toEqual([1, 4, 5, 2, 3]);
  });
  it("leaves a follower whose head is not listed where it stood", () => {
    expect(inChains(findings.slice(0, 3)).map((f) => f.id)).toEqual([1, 2, 3]);
  });
  it("loses nothing when findings follow each other in a ring", () => {
    const ring = [
      { id: 1, follows: 2 },
      { id: 2, follows: 1 },
    ];
    expect(inChains(ring)).toHaveLength(2);
  });
  it("links a head with all that follow it, whichever of them is chosen", () => {
    const links = [
      [5, 2],
      [5, 3],
    ];
    expect(chainOf(findings, 5)).toEqual(links);
    expect(chainOf(findings, 2)).toEqual(links);
    expect(chainOf(findings, 1)).toEqual([]);
    expect(chainOf(findings, null)).toEqual([]);
  });
});
