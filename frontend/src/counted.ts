/** Counts with their word: 1 step, 3 steps. */
export const many = (n: number, one: string, more = `${one}s`): string => `${n} ${n === 1 ? one : more}`;
