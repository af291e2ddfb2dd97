import type { Schemas } from "./api/client";

/** Under which names answers of the server are kept in the page: every one is here, so that what changes them finds them all. */
export const keys = {
  asked: ["asked"],
  batch: (id: number) => ["batch", id],
  boards: ["boards"],
  class: (id: number) => ["class", id],
  classes: ["classes"],
  costs: (revision: number) => ["costs", revision],
  desk: ["desk"],
  exercise: (revision: number) => ["exercise", revision],
  exercises: ["exercises"],
  marking: (attempt: number, only: string | null) => ["marking", attempt, only],
  /** Proved again when what it depends on was saved. */
  proof: (page?: Schemas["ExercisePage"]) => {
    const saved = page?.rules;
    return [
      "proof",
      page?.revision_id,
      saved?.ties,
      saved?.taken,
      saved?.decided,
      saved?.roles,
      saved?.tolerances,
      saved?.examines,
    ];
  },
  record: (asked: unknown) => ["record", asked],
  result: (attempt: number) => ["result", attempt],
  /** The results of one class, or of all. */
  results: (issue?: number) => (issue === undefined ? ["results"] : ["results", issue]),
  task: (issue: number) => ["work", issue],
  work: ["work"],
} as const;
