import type { LetteringSettings } from '../artwork';
import type { BurnSetting, Recipe } from '../burn';
import { turnedBlank, type Blank, type BlankSizes, type Side, type Turn, type Zone } from '../holding';
import type { Share } from '../units';
import type { BatchInput, BackSettings } from './input';

/** Ticked when a sheet lies on its second side; readings, files and drawings are of that side then. */
export const TURNED = 'place.turned';

export const freshBack: BackSettings = {
  zoneId: null,
  lines: [],
  gap: 1.5,
  narrowest: 0.8,
  smallest: 1.5,
  recipeId: null,
  deeper: 1,
};

/** The face that is being engraved now, and all that differs between the two. */
export interface Face {
  readonly side: Side;
  /** As seen from this side. */
  readonly blank: Blank;
  readonly lettering: LetteringSettings & { readonly zoneId: string | null };
  readonly zone: Zone | null;
  readonly recipe: Recipe | null;
}

/**
 * The same lines with so much more energy to the area: power first, then, when that is at its end,
 * a slower head. Energy is power over speed × interval, so both count in proportion.
 */
export const deepened = (setting: BurnSetting, factor: Share): BurnSetting => {
  const power = Math.min(1, setting.power * factor);
  return {
    ...setting,
    power,
    speed: setting.power === 0 ? setting.speed : (setting.speed * power) / (setting.power * factor),
  };
};

const zoneFor = (blank: Blank, side: Side, wanted: string | null): Zone | null => {
  const here = blank.zones.filter((z) => (z.side ?? side) === side);
  return here.find((z) => z.id === wanted) ?? here[0] ?? null;
};

/** The front of a batch, with its lettering and recipe. */
export const frontFace = (input: BatchInput): Face => {
  const { lettering } = input.setup;
  return {
    side: 'front',
    blank: input.blank,
    lettering,
    zone: zoneFor(input.blank, 'front', lettering.zoneId),
    recipe: input.recipe,
  };
};

/** The back of a batch as it is seen once a piece was turned so, with what it carries. */
export const backFace = (input: BatchInput, sizes: BlankSizes, reads: Turn): Face => {
  const { back } = input.setup;
  const blank = turnedBlank(input.blank, sizes, reads);
  const recipe = input.backRecipe ?? input.recipe;
  return {
    side: 'back',
    blank,
    lettering: back,
    zone: zoneFor(blank, 'back', back.zoneId),
    recipe: recipe && { ...recipe, engrave: deepened(recipe.engrave, back.deeper) },
  };
};
