/** Made by `python -m evenmark.web.words`; change the core, then run it again. */
/** What all checks of a kind are called together, in the order in which they are listed. */
export const KIND_TITLES = {
  "whole": "Placement",
  "length": "Lengths",
  "angle": "Directions",
  "radius": "Radii",
  "diameter": "Diameters",
  "arc-length": "Lengths of arcs",
  "sweep": "Included angles",
  "position": "Positions",
  "free-ends": "Free ends",
  "distance": "Distances",
  "included-angle": "Angles between edges",
  "axis": "Centre lines",
  "tangent": "Tangency",
  "perpendicular": "Perpendicular",
  "parallel": "Parallel",
  "concentric": "Concentric",
  "in-line": "In line",
  "joined": "Joined ends",
  "closed": "Closed outlines",
  "whole-edge": "Edges without gaps",
  "one-piece": "Outlines of one object",
  "area": "Areas",
  "perimeter": "Perimeters",
  "equal": "Equal sizes",
  "symmetric": "Symmetry",
  "evenly-spaced": "Equal spacing",
  "on-circle": "Holes on their pitch circle",
  "count": "Counts",
  "wording": "Text",
  "text-height": "Text heights",
  "text-anchor": "Text positions",
  "text-turn": "Text directions",
  "dimension": "Dimensions",
  "note": "Notes",
  "hatch": "Hatching",
  "arrangement": "Aligned views",
  "agreement": "Sizes that views share",
  "layer": "Layers",
  "style": "Line styles",
  "layer-style": "Line styles of layers",
  "clean": "Extra objects",
  "differs": "Sides and directions",
  "line-type": "Line types"
} as const;
/** Kinds that are about one feature alone, so that missing them marks it. */
export const MARKS_ITS_FEATURE = [
  "length",
  "angle",
  "radius",
  "diameter",
  "arc-length",
  "sweep",
  "position",
  "free-ends",
  "axis",
  "area",
  "perimeter",
  "layer",
  "style"
] as const;
/** The parts of a list by the sheet. */
export const LIST_PARTS = {
  "sizes": "Dimensions on the sheet",
  "unsaid": "Not on the sheet",
  "read": "Implied",
  "layers": "Layers",
  "look": "Text and line styles",
  "charged": "Deductions"
} as const;
/** What is implied of some features, by kind. */
export const TAKEN_WORDS = {
  "meet": "ends meet",
  "on": "end on another line or arc",
  "level": "horizontal",
  "plumb": "vertical",
  "square": "perpendicular",
  "parallel": "parallel",
  "in-line": "in line",
  "smooth": "tangent",
  "one-centre": "concentric",
  "on-axis": "on the centre line",
  "alike": "symmetrical about the centre line",
  "even": "evenly spaced round the pitch circle",
  "views": "aligned in two views",
  "level-with": "aligned horizontally",
  "plumb-with": "aligned vertically",
  "even-row": "evenly spaced in a row",
  "mirrored": "symmetrical about the centre line",
  "projected": "aligned in two views"
} as const;
/** What features are called, by the letter that their ids begin with, in the order of lists. */
export const FEATURE_WORDS = {
  "o": "Outline",
  "e": "Edge",
  "a": "Arc",
  "c": "Circle",
  "k": "Corner",
  "t": "Junction",
  "f": "Curve",
  "x": "Text",
  "n": "Note",
  "d": "Dimension",
  "h": "Hatching",
  "v": "View",
  "r": "Construction line"
} as const;
/** What layers can be for. */
export const ROLES = [
  "outline",
  "hidden",
  "centre",
  "construction",
  "dimension",
  "lettering",
  "section",
  "frame"
] as const;
/** Kinds that earn nothing and are charged, where an exercise charges. */
export const CHARGED_KINDS = [
  "clean",
  "whole",
  "differs"
] as const;
/** What new exercises charge. */
export const CHARGES = {
  "whole": 20.0,
  "mirrored": 30.0,
  "each": 1.0,
  "most": 25.0,
  "twice": 15.0,
  "floor": 3.0,
  "floor_sizes": 5.0,
  "size_most": 8.0,
  "floor_missing": 7.0,
  "missing_most": 10.0,
  "floor_views": 10.0,
  "habit_most": 10.0,
  "floors_most": 18.0,
  "beside_absent": 0.65,
  "enough": 0.5,
  "habits": true
} as const;
/** Every verdict. */
export const VERDICTS = [
  "met",
  "near",
  "missed",
  "absent",
  "follows"
] as const;
/** Verdicts that cost marks. */
export const OPEN = [
  "missed",
  "absent",
  "near"
] as const;
/** The papers that a sheet is printed on, smallest first. */
export const PAPERS = {
  "metric": [
    "A4",
    "A3",
    "A2",
    "A1",
    "A0"
  ],
  "inch": [
    "ANSI A",
    "ANSI B",
    "ANSI C",
    "ANSI D",
    "ANSI E"
  ]
} as const;
