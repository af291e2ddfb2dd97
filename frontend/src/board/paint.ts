/** Draws a scene on a canvas: paths that the core made, in the board's own weights and dashes. */
import { colour } from "../theme";
import type { Point } from "../view";
import type { Piece, SceneText } from "./types";

export interface Look {
  center: Point;
  /** Pixels a unit. */
  scale: number;
  width: number;
  height: number;
  ratio: number;
}
const DASHES: Record<string, number[]> = { dashed: [7, 4], chain: [14, 4, 3, 4] };
const ANNOTATIONS = new Set(["size", "note", "hatch", "text"]);
const paths = new Map<string, Path2D>();
const MOST_PATHS = 40_000;

/** A path, made once. */
export function pathOf(d: string): Path2D {
  const known = paths.get(d);
  if (known) return known;
  if (paths.size > MOST_PATHS) paths.clear();
  const made = new Path2D(d);
  paths.set(d, made);
  return made;
}

/** In which colour of the theme what stands on a layer is drawn. */
export function inkOf(layer: string, lineType: string): "blue" | "axis" | "ink2" | "ink" {
  if (layer === "construction") return "blue";
  if (lineType === "chain" || layer === "centre") return "axis";
  return ["dimension", "lettering", "section"].includes(layer) ? "ink2" : "ink";
}

export type Tone = "ink" | "faint" | "chosen" | "preview";

export function styleOf(piece: Piece, tone: Tone): { color: string; width: number; dash: number[] } {
  const guide = piece.kind === "guide" || piece.layer === "construction";
  const thin =
    (piece.weight ?? 0.25) < 0.35 || piece.line_type !== "continuous" || ANNOTATIONS.has(piece.kind);
  const dash = guide ? [] : (DASHES[piece.line_type] ?? []);
  const plain = guide
    ? colour("blue")
    : piece.line_type === "chain"
      ? colour("axis")
      : ANNOTATIONS.has(piece.kind)
        ? colour("ink2")
        : colour("ink");
  const color = tone === "ink" ? plain : tone === "faint" ? colour("faint") : colour("teal");
  return { color, width: (thin ? 1.1 : 1.9) + (tone === "chosen" ? 1.5 : 0), dash };
}

export function begin(canvas: HTMLCanvasElement, look: Look): CanvasRenderingContext2D | null {
  const [w, h] = [Math.round(look.width * look.ratio), Math.round(look.height * look.ratio)];
  if (canvas.width !== w || canvas.height !== h) {
    canvas.width = w;
    canvas.height = h;
  }
  const c = canvas.getContext("2d");
  if (!c) return null;
  c.setTransform(1, 0, 0, 1, 0, 0);
  c.clearRect(0, 0, w, h);
  const s = look.scale * look.ratio;
  c.setTransform(
    s,
    0,
    0,
    s,
    (look.width / 2 - look.center[0] * look.scale) * look.ratio,
    (look.height / 2 - look.center[1] * look.scale) * look.ratio,
  );
  c.lineCap = "round";
  c.lineJoin = "round";
  return c;
}

export function paint(
  c: CanvasRenderingContext2D,
  look: Look,
  pieces: Iterable<Piece>,
  tone: (p: Piece) => Tone,
): void {
  for (const piece of pieces) {
    const style = styleOf(piece, tone(piece));
    c.strokeStyle = style.color;
    c.lineWidth = style.width / look.scale;
    c.setLineDash(style.dash.map((d) => d / look.scale));
    if (piece.path) c.stroke(pathOf(piece.path));
    for (const t of piece.texts) lettering(c, t, style.color);
  }
  c.setLineDash([]);
}

/** Lettering stands on its place by its anchor; the capitals of the face are 0.66 of its size. */
function lettering(c: CanvasRenderingContext2D, t: SceneText, color: string): void {
  const [across = "left", up = "baseline"] = t.anchor.split(" ");
  const size = t.height / 0.66;
  c.save();
  c.translate(t.at[0], t.at[1]);
  c.rotate((-t.turn * Math.PI) / 180);
  // browsers set no letters below a pixel: they are set large and drawn small
  const k = size / 100;
  c.scale(k, k);
  c.fillStyle = color;
  c.font = '100px "Source Sans 3 Variable", sans-serif';
  c.textAlign = across === "centre" ? "center" : (across as CanvasTextAlign);
  const drop = up === "top" ? t.height : up === "middle" ? t.height / 2 : 0;
  t.wording.split("\n").forEach((row, n) => c.fillText(row, 0, drop / k + n * 125));
  c.restore();
}

/** A picture under the drawing: its upper left corner at its place, turned about that. */
export function paintPicture(
  c: CanvasRenderingContext2D,
  lies: { at: Point; scale: number; turn: number; width: number; height: number; strength: number } & {
    image: HTMLImageElement;
  },
  origin: Point,
): void {
  c.save();
  c.globalAlpha = lies.strength;
  c.translate(lies.at[0] - origin[0], origin[1] - lies.at[1]);
  c.rotate((-lies.turn * Math.PI) / 180);
  c.drawImage(lies.image, 0, 0, lies.width * lies.scale, lies.height * lies.scale);
  c.restore();
}
