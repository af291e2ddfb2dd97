// @vitest-environment node
import { describe, expect, it } from "vitest";
import { away, dueWords, forField, fromField, when } from "../src/times";

const NOW = new Date(2026, 10, 26, 12, 0).getTime();
const at = (...parts: [number, number, number, number, number]) => new Date(...parts).toISOString();

describe("moments", () => {
  it.each([
    [at(2026, 10, 26, 12, 30), "in 30 minutes"],
    [at(2026, 10, 26, 11, 0), "1 hour ago"],
    [at(2026, 10, 26, 16, 36), "in 4 hours 36 min"],
    [at(2026, 10, 26, 0, 1), "11 hours 59 min ago"],
    [at(2026, 10, 27, 16, 0), "tomorrow"],
    [at(2026, 10, 25, 8, 0), "yesterday"],
    [at(2026, 11, 4, 16, 0), "in 8 days"],
    [at(2026, 11, 4, 0, 1), "in 8 days"],
    [at(2026, 11, 4, 23, 59), "in 8 days"],
    [at(2026, 10, 16, 23, 0), "10 days ago"],
    [at(2026, 10, 26, 12, 0), "just now"],
  ])("says of %s that it is %s", (iso, words) => {
    expect(away(iso, NOW)).toBe(words);
  });

  it("counts days by the calendar, also where a day has 23 or 25 hours", () => {
    for (let day = 1; day < 365; day++) {
      const later = new Date(2026, 10, 26 + day, 12, 0);
      const words = day === 1 ? "tomorrow" : `in ${day} days`;
      expect(away(later.toISOString(), NOW)).toBe(words);
    }
  });

  it("says the year where it is not this one", () => {
    expect(when(at(2026, 11, 4, 16, 0), NOW)).toBe("Fri 4 Dec, 16:00");
    expect(when(at(2027, 0, 8, 9, 5), NOW)).toBe("Fri 8 Jan 2027, 09:05");
    expect(dueWords(at(2026, 11, 4, 16, 0), NOW)).toBe("Fri 4 Dec, 16:00, in 8 days");
  });

  it("goes into a field and comes back", () => {
    const iso = at(2026, 11, 4, 16, 0);
    expect(forField(iso)).toBe("2026-12-04T16:00");
    expect(fromField(forField(iso))).toBe(iso);
    expect(fromField("")).toBeNull();
  });
});
