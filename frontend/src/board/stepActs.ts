/** What can be done with a step of the list. */
export type StepAct = "edit" | "insert" | "mark" | "up" | "down" | "away";
