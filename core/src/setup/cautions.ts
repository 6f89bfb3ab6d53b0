const DEFER = 'Local rules, the maker’s instructions and licensed practice come first.';

/** Short, at the step where they count; each defers to who knows the place and the machine. */
export const CAUTIONS = {
  burn: `Eyewear rated for this wavelength, door shut, interlocks as the maker set them, extraction on. Someone stays with a burning job, extinguisher in reach. ${DEFER}`,
  material: `Read the material’s safety sheet. Chlorinated plastics (PVC) are never burned. ${DEFER}`,
  hot: `Edges and slugs are hot after cutting. ${DEFER}`,
  vessel: `Sealed vessels are opened before they are heated. Glass may break: gloves and eyewear. ${DEFER}`,
  rollers: `Fingers, sleeves and cords stay off turning rollers and jaws. ${DEFER}`,
  power: `Mains off and the supply discharged before any plug is moved, as the machine’s maker says. ${DEFER}`,
  head: `Keep hands clear while the head moves. ${DEFER}`,
} as const;
