/** Layers of two drawings laid beside each other by name. */
import type { Schemas } from "./api/client";

type Layer = Schemas["LayerOut"];
export interface LayerPair {
  key: string;
  asked?: Layer;
  drawn?: Layer;
  differs: string[];
}

/** Returns the layers that are drawn on or asked for, each with its namesake whatever the letter case. */
export function besideEachOther(asked: readonly Layer[], drawn: readonly Layer[]): LayerPair[] {
  const out = new Map<string, LayerPair>();
  const at = (name: string) => {
    const key = name.toLowerCase();
    const pair = out.get(key) ?? { key, differs: [] };
    out.set(key, pair);
    return pair;
  };
  for (const a of asked) if (a.features) at(a.name).asked = a;
  for (const d of drawn) if (d.features || out.has(d.name.toLowerCase())) at(d.name).drawn = d;
  for (const pair of out.values()) pair.differs = differing(pair.asked, pair.drawn);
  return [...out.values()];
}

function differing(a?: Layer, d?: Layer): string[] {
  if (!a) return ["name"];
  if (!d || !d.features) return ["empty"];
  return [
    ...(a.name !== d.name ? ["letter case"] : []),
    ...(a.line_type !== d.line_type ? ["line type"] : []),
    ...(a.color !== d.color ? ["colour"] : []),
    ...(a.weight !== null && a.weight !== d.weight ? ["weight"] : []),
  ];
}
