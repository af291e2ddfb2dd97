/** Drawings to follow: made by the hand on a board of one's own, with a marker of what to press next. */
import type { Point } from "../view";

/** What is done next within a step: a place of the drawing is pressed, or signs are typed; what is typed is the last of a step. */
export type Part = { press: Point; says: string } | { type: string; says: string };
export interface Stage {
  /** The kind of step, as the list calls it. */
  kind: string;
  /** What the step is for. */
  says: string;
  parts: readonly Part[];
}
export interface Lesson {
  name: string;
  title: string;
  /** What is learnt by it. */
  teaches: string;
  /** The pitch of the grid on which it is drawn. */
  grid: number;
  stages: readonly Stage[];
}

const at = (x: number, y: number, says = "Click the marked place."): Part => ({ press: [x, y], says });
const type = (signs: string, says = `Type ${signs}.`): Part => ({ type: signs, says });
const corners = (...places: Point[]): Part[] => places.map(([x, y]) => at(x, y, "Click the next corner."));
const closes = (x: number, y: number): Part => at(x, y, "Click the start: that closes the outline.");
function circle(x: number, y: number, size: string, says: string): Stage {
  return {
    kind: "circle by centre and size",
    says,
    parts: [at(x, y, "Click its centre."), type(size)],
  };
}

export const LESSONS: readonly Lesson[] = [
  {
    name: "plate",
    title: "A plate with a notch",
    teaches: "Lines in a chain, and holes.",
    grid: 10,
    stages: [
      {
        kind: "chain of lines",
        says: "The outline of the plate, corner by corner.",
        parts: [
          at(0, 0, "Click where it starts."),
          ...corners([100, 0], [100, 60], [70, 60], [70, 40], [40, 40], [40, 60], [0, 60]),
          closes(0, 0),
        ],
      },
      circle(20, 20, "radius 6", "A hole: its centre, then its radius."),
      circle(
        80,
        20,
        "diameter 12",
        "The other hole, this time by its diameter. The key = begins the same kind.",
      ),
    ],
  },
  {
    name: "link",
    title: "A crank link",
    teaches: "Circles, and their common tangents.",
    grid: 10,
    stages: [
      circle(0, 0, "radius 20", "The large end."),
      circle(80, 0, "radius 10", "The small end. The key = begins the same kind."),
      {
        kind: "line tangent to two circles",
        says: "The lower side is tangent to both circles.",
        parts: [
          at(14, -14, "Click the large circle."),
          at(87, -7, "Click the small circle."),
          at(40, -17, "Four lines are tangent to both. Click the one below."),
        ],
      },
      {
        kind: "line tangent to two circles",
        says: "The upper side, the same way.",
        parts: [
          at(14, 14, "Click the large circle."),
          at(87, 7, "Click the small circle."),
          at(40, 17, "Click the line above."),
        ],
      },
      circle(0, 0, "radius 10", "The bore of the large end."),
      circle(80, 0, "radius 5", "The bore of the small end."),
    ],
  },
  {
    name: "bracket",
    title: "A bracket",
    teaches: "A fillet, a chamfer and a slot.",
    grid: 10,
    stages: [
      {
        kind: "chain of lines",
        says: "The outline, corner by corner.",
        parts: [
          at(0, 0, "Click where it starts."),
          ...corners([90, 0], [90, 20], [20, 20], [20, 70], [0, 70]),
          closes(0, 0),
        ],
      },
      {
        kind: "fillet",
        says: "The inner corner gets a fillet.",
        parts: [
          at(50, 20, "Click one line of the corner."),
          at(20, 50, "Click the other line."),
          type("8", "Type its radius, 8."),
        ],
      },
      {
        kind: "chamfer",
        says: "An outer corner gets a chamfer.",
        parts: [
          at(90, 10, "Click one line of the corner."),
          at(60, 20, "Click the other line."),
          type("5", "Type how much is cut off, 5."),
        ],
      },
      {
        kind: "slot with round ends",
        says: "A slot, by the centres of its ends.",
        parts: [
          at(40, 10, "Click the centre of one end."),
          at(60, 10, "Click the centre of the other end."),
          type("8", "Type its width, 8."),
        ],
      },
    ],
  },
];
