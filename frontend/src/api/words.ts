/** Made by `python -m evenmark.web.words`; change the core, then make it anew. */
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
  "perpendicular": "Square to each other",
  "parallel": "Parallel",
  "concentric": "One centre",
  "in-line": "In line",
  "joined": "Ends that meet",
  "closed": "Closed outlines",
  "whole-edge": "Edges without gaps",
  "one-piece": "Outlines of one object",
  "area": "Areas",
  "perimeter": "Lengths round",
  "equal": "Equal sizes",
  "symmetric": "Symmetry",
  "evenly-spaced": "Even patterns",
  "count": "How many",
  "wording": "Wording",
  "text-height": "Heights of lettering",
  "text-anchor": "Places of lettering",
  "text-turn": "Directions of lettering",
  "dimension": "Dimensions",
  "note": "Notes",
  "hatch": "Hatching",
  "arrangement": "Views in line",
  "agreement": "Sizes that views share",
  "layer": "Layers",
  "style": "Looks",
  "layer-style": "Look of layers",
  "clean": "Nothing left over"
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
  "layer",
  "style",
  "axis",
  "perimeter",
  "area"
] as const;
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
