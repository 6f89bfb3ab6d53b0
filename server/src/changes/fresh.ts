import type { Setup } from '@bistre/contract';
import { boardName, freshHeld, freshSections, type HeldSection } from '@bistre/core';

/**
 * What a batch begins with, before anybody chose anything.
 * @param shape of its blank, which says in which ways it can be held
 */
export const freshSetup = (
  name: string,
  shape: { readonly kind: string },
  quantity: number,
  held: HeldSection = freshHeld(boardName(name), shape, quantity),
): Setup => freshSections(held) as Setup;
