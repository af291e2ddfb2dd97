/** Made by `python -m evenmark.web.board_types`; change the core, then run it again. */
import type { Point } from "../view";

/** Lettering with its place and anchor; `turn` in degrees. */
export type SceneText = {
  wording: string;
  at: Point;
  anchor: string;
  height: number;
  turn: number;
};
/** One line as it is kept. */
export type KeptLine = {
  kind: string;
  says?: string;
  name?: string;
  id?: number;
  after?: string;
};
/** A document as it is kept (docs/formats/steps.md); `next` is the id that the next new step gets. */
export type KeptDocument = {
  format: string;
  version: number;
  next: number;
  lines: KeptLine[];
};
/** A piece of the drawing under its name: its lines as one path, and what is lettered. */
export type Piece = {
  id: string;
  kind: string;
  step: number;
  layer: string;
  line_type: string;
  weight: number | null;
  path: string;
  texts: SceneText[];
};
/** A line of the list as it is shown: a step with its number and sentence, a bookmark, a remark. `refs` is where the sentence names other steps: from, to, the step's id; `shows` what its formulas come to. */
export type Row = {
  key: string;
  kind: "step" | "bookmark" | "remark";
  line: number;
  says: string;
  id?: number;
  number?: number;
  after?: string;
  refs?: [number, number, number][];
  does?: string | null;
  layer?: string | null;
  broken?: string;
  waits?: number | null;
  shows?: string[];
};
/** The set that a value is one of. */
export type PermittedNumbers = {
  listed: number[];
  first: number;
  last: number;
  by: number;
  says: string;
};
/** A value: how it is defined, what it comes to, or what is wrong with it. */
export type ValueRow = {
  line: number;
  name: string;
  says: string;
  shows: string;
  wrong: string;
  permitted?: PermittedNumbers;
};
/** A layer: how much stands on it, how it looks, and the line that declares it. */
export type LayerRow = {
  name: string;
  count: number;
  line_type: string;
  weight: number | null;
  color: string | number | null;
  line: number | null;
};
/** What is wrong with a line that is no step. */
export type LineProblem = {
  line: number;
  says: string;
};
/** What is shown of a board, or what has changed in it: rows and pieces that are new or other, the names of pieces that went, in which order rows stand; `layer` is the one on which outlines were drawn last. */
export type View = {
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
  layer: string;
  usual_layers: string[];
  problems: LineProblem[];
  lines: number;
};
/** Some lines that go and some that come in one place of the list. */
export type Edit = {
  at: number;
  gone: KeptLine[];
  come: KeptLine[];
};
/** Why something was not done, with the character where a sentence cannot be read and the sentences that it may mean; `parted` where the list has changed meanwhile. */
export type Refusal = {
  refused: string;
  at?: number | null;
  readings?: string[];
  parted?: boolean;
};
/** What was done: how the list changed, the step that came, and what has changed in the view. */
export type Done = {
  splices: Edit[];
  view: View;
  id?: number;
};
/** The view as it would be, and the difference back. */
export type Tried = {
  view: View;
  back: View;
};
/** What has changed in the view. */
export type Applied = {
  view: View;
};
/** The numbers of the steps that need some. */
export type Needed = {
  by: number[];
};
/** What a sentence would draw: pieces that would be there, the names of those that would go or change; or why it cannot be built. */
export type Preview = {
  whole: boolean;
  pieces: Piece[];
  gone: string[];
  broken: string;
};
/** A word that may follow, the sentence with it, and what it would draw; `more` where it goes on behind what stands there, instead of being what stands there. */
export type Answer = {
  says: string;
  text: string;
  paths?: string[];
  broken?: string;
  more?: boolean;
};
/** One thing that may stand at a place of a sentence. */
export type Wish = {
  kind: string;
  says: string;
  kinds: string[];
};
/** Why a sentence cannot be read, and at which character. */
export type Wrong = {
  says: string;
  at: number;
};
/** A sentence being written: whether it is whole, whether more may be pointed behind it (it is then taken by a press of its own), what it needs in words, its answers, slots, what is wrong, what it would draw, and the points that it has said. `text` is the sentence with signs between slots that were left out; `onward` as it goes on to its next slot, `follows` what that wants, where the one before is filled with something drawn: it is what is needed, though a list may go on; `readings` what it may mean where it cannot be read, the one that is meant where there is but one. */
export type Writing = {
  text: string;
  named: string[];
  onward: string;
  readings: string[];
  layer: string;
  whole: boolean;
  goes_on: boolean;
  about: string;
  needs: string;
  wants: Wish[];
  follows: Wish[];
  answers: Answer[];
  begin: number;
  end: number;
  spans: [number, number, string][];
  wrong: Wrong | null;
  preview: Preview;
  points: Point[];
};
/** Something that a pointer may mean; `writes` is how its place alone is written. */
export type Choice = {
  kind: string;
  says: string;
  writes: string;
  at: Point | null;
  on: string[];
};
/** What is in reach of a pointer, the sentence with the one that is meant, and what that draws; `live` is what is said of its numbers, `others` what the other answers of a construction draw, `onward` the sentence as it goes on to its next slot, where something is written there that nobody points. */
export type Pointed = {
  choices: Choice[];
  which: number;
  text: string;
  caret: number;
  preview: Preview | null;
  more?: boolean;
  onward?: string;
  points?: Point[];
  others?: string[];
  live?: string;
};
/** A number of what is chosen: as it is shown, as it would be written, and whether it can be given another value. */
export type Told = {
  name: string;
  shows: string;
  says: string;
  can: boolean;
};
/** A point that can be pulled. */
export type Grip = {
  which: string;
  at: Point;
};
/** A step that made a piece, or changed it. */
export type Touched = {
  step: number;
  number: number;
  how: "made" | "changed";
};
/** A piece that is chosen, with its numbers, the points that can be pulled, and the steps that made and changed it, in their order. */
export type Chosen = {
  id: string;
  name: string;
  kind: string;
  layer: string;
  step: number;
  number: number;
  wording: string;
  numbers: Told[];
  pulled: Grip[];
  by: Touched[];
};
/** The numbers of what is chosen: of each piece its own, of several their length together. */
export type AllChosen = {
  chosen: Chosen[];
  together: string;
};
/** A number that was measured. */
export type Measure = {
  name: string;
  shows: string;
};
/** The numbers of a feature, a step, a point, or between two. */
export type Measured = {
  told: Measure[];
};
/** What lies in a window, as sentences name it. */
export type InWindow = {
  names: string[];
};
/** A small picture: what stands in pale lines, what the sentence does in strong ones. */
export type Picture = {
  box: [number, number, number, number];
  pale: string;
  strong: string;
  texts: SceneText[];
};
/** Something that can be done: its group, what it is called, how its sentence begins, other words for it, an example, and its picture. */
export type Kind = {
  group: string;
  says: string;
  begins: string;
  words: string;
  example: string;
  picture: Picture;
};
/** All that can be done. */
export type Offered = {
  kinds: Kind[];
};
/** The kinds that a word may mean, by what they are called. */
export type Found = {
  kinds: string[];
};
/** The document, as it is kept and as text. */
export type Kept = {
  document: KeptDocument;
  text: string;
};
/** What each call takes. */
export interface Asks {
  open: { document?: unknown | null };
  view: object;
  state: {
    says?: string;
    caret?: number | null;
    before?: number | null;
    layer?: string;
    own?: string;
    commas?: boolean;
  };
  point: {
    says?: string;
    caret?: number | null;
    before?: number | null;
    layer?: string;
    own?: string;
    commas?: boolean;
    x?: number;
    y?: number;
    reach?: number;
    pixel?: number;
    held?: string;
    off?: boolean;
    level?: string;
    grid?: number;
    rested?: object[];
    which?: number | null;
    hidden?: string[];
  };
  write: { says?: string; before?: number | null; layer?: string; own?: string; commas?: boolean };
  change: { step: number; says?: string; commas?: boolean };
  try: { call?: string } & Partial<Asks["change"]> & Partial<Asks["correct"]> & Partial<Asks["pull"]>;
  take_away: { steps?: number[] };
  needed: { steps?: number[] };
  move: { step: number; before?: number | null };
  line: { line?: number | null; gone?: boolean; come?: KeptLine | null };
  apply: { splices?: Edit[] };
  replace: { document?: unknown | null; text?: string };
  lay_in: { name?: string; drawing?: unknown | null };
  put_on: { names?: string[]; layer?: string };
  tell: { names?: string[] };
  correct: { name?: string; number?: string; says?: string; stays?: string };
  pull: { name?: string; which?: string; says?: string };
  measure: { says?: string; to?: string };
  window: { x?: number; y?: number; x2?: number; y2?: number; touches?: boolean; hidden?: string[] };
  offered: object;
  find: { says?: string; recent?: string[] };
  kept: object;
}
/** What each call answers. */
export interface Answers {
  open: View;
  view: View;
  state: Writing;
  point: Pointed;
  write: Done;
  change: Done;
  try: Tried;
  take_away: Done;
  needed: Needed;
  move: Done;
  line: Done;
  apply: Applied;
  replace: Done;
  lay_in: Done;
  put_on: Done;
  tell: AllChosen;
  correct: Done;
  pull: Done;
  measure: Measured;
  window: InWindow;
  offered: Offered;
  find: Found;
  kept: Kept;
}
export type Call = keyof Answers;
