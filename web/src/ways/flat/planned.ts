/** How many loads or sheets are planned, and of how many pieces the first are. @example plannedWords([1, 24], 'load') // '2 loads: 1 + 24' */
export const plannedWords = (planned: readonly number[], one: 'load' | 'sheet'): string =>
  `${planned.length} ${one}${planned.length === 1 ? '' : 's'}: ${planned.slice(0, 4).join(' + ')}${planned.length > 4 ? ' …' : ''}`;
