import type { Machine, SecondSource } from '../burn';
import type { Program } from '../output';

/** The second source while a program has it chosen, else null; asked move by move, in their order. */
export const chosenSource = ({ tools }: Pick<Program, 'tools'>, { second }: Pick<Machine, 'second'>): ((move: number) => SecondSource | null) => {
  let next = 0;
  let chosen: SecondSource | null = null;
  return (move) => {
    while (tools[next]?.before === move) chosen = tools[next++]!.tool === 2 ? (second ?? null) : null;
    return chosen;
  };
}; // prettier-ignore
