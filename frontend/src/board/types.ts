/** What a board answers, as the core says it (docs/formats/board.md). Places are those of the scene: y downward. */
import type { Point } from "../view";

export interface SceneText {
  wording: string;
  at: Point;
  anchor: string;
  height: number;
  turn: number;
}
export interface Piece {
  id: string;
  kind: string;
  step: number;
  layer: string;
  line_type: string;
  weight: number | null;
  path: string;
  texts: SceneText[];
}
export interface Row {
  key: string;
  kind: "step" | "bookmark" | "remark";
  line: number;
  says: string;
  id?: number;
  number?: number;
  after?: string;
  /** Where the sentence names other steps: from, to, the step's id. */
  refs?: [number, number, number][];
  does?: string | null;
  layer?: string | null;
  broken?: string;
  waits?: number | null;
  /** What its formulas come to. */
  shows?: string[];
}
export interface Permitted {
  listed: number[];
  first: number;
  last: number;
  by: number;
  says: string;
}
export interface ValueRow {
  line: number;
  name: string;
  says: string;
  shows: string;
  wrong: string;
  permitted?: Permitted;
}
export interface LayerRow {
  name: string;
  count: number;
  line_type: string;
  weight: number | null;
  color: string | number | null;
  line: number | null;
}
export interface View {
  unit: string;
  order: string[];
  rows: Row[];
  pieces: Piece[];
  gone: string[];
  box: [number, number, number, number];
  empty: boolean;
  origin: Point;
  values: ValueRow[];
  layers: LayerRow[];
  /** The layer that was drawn on last. */
  layer: string;
  usual_layers: string[];
  problems: { line: number; says: string }[];
  lines: number;
}
export interface Line {
  kind: string;
  says?: string;
  name?: string;
  id?: number;
  after?: string;
}
export interface Splice {
  at: number;
  gone: Line[];
  come: Line[];
}
export interface Refusal {
  refused: string;
  at?: number | null;
}
export interface Done {
  splices: Splice[];
  view: View;
  id?: number;
}
export interface Preview {
  whole: boolean;
  pieces: Piece[];
  gone: string[];
  broken: string;
}
export interface Offer {
  says: string;
  text: string;
  paths?: string[];
  broken?: string;
  /** Whether it goes on behind what stands there, instead of being what stands there. */
  more?: boolean;
}
export interface Wanted {
  kind: string;
  says: string;
  kinds: string[];
}
export interface Writing {
  whole: boolean;
  /** Whether more may be pointed behind a whole sentence: it is then taken by a press of its own. */
  goes_on: boolean;
  about: string;
  needs: string;
  wants: Wanted[];
  answers: Offer[];
  begin: number;
  end: number;
  spans: [number, number, string][];
  wrong: { says: string; at: number } | null;
  preview: Preview;
  points: Point[];
}
export interface Choice {
  kind: string;
  says: string;
  at: Point | null;
  on: string[];
}
export interface Pointed {
  choices: Choice[];
  which: number;
  text: string;
  caret: number;
  preview: Preview | null;
  more?: boolean;
  points?: Point[];
  live?: string;
}
export interface Told {
  name: string;
  shows: string;
  says: string;
  can: boolean;
}
export interface Chosen {
  id: string;
  name: string;
  kind: string;
  layer: string;
  step: number;
  number: number;
  wording: string;
  numbers: Told[];
  pulled: { which: string; at: Point }[];
}
export interface Kind {
  group: string;
  says: string;
  begins: string;
  words: string;
  picture: {
    box: [number, number, number, number];
    pale: string;
    strong: string;
    texts: SceneText[];
  };
}
/** What can be done with a step of the list. */
export type StepAct = "edit" | "insert" | "mark" | "up" | "down" | "away";
/** What each call answers. */
export interface Answers {
  open: View;
  view: View;
  write: Done;
  change: Done;
  try: { view: View; back: View };
  take_away: Done;
  needed: { by: number[] };
  move: Done;
  line: Done;
  apply: { view: View };
  replace: Done;
  lay_in: Done;
  put_on: Done;
  state: Writing;
  point: Pointed;
  tell: { chosen: Chosen[]; together: string };
  correct: Done;
  pull: Done;
  measure: { told: { name: string; shows: string }[] };
  window: { names: string[] };
  offered: { kinds: Kind[] };
  find: { kinds: string[] };
  kept: { document: Kept; text: string };
}
export type Call = keyof Answers;
export interface Kept {
  format: string;
  version: number;
  next: number;
  lines: Line[];
}
