const textOf = (element: Element | null | undefined): string => element?.textContent?.trim() ?? '';

/** The first field within a form that refuses what was typed, in the order of the page. */
const firstRefused = (form: ParentNode): HTMLInputElement | null =>
  form.querySelector<HTMLInputElement>('[aria-invalid="true"]');

/**
 * Goes to the first field of a form that refuses what was typed: nothing is saved while one does.
 *
 * @returns what is wrong, in words; null when every field was taken
 */
export const refusedField = (form: ParentNode): string | null => {
  const field = firstRefused(form);
  if (!field) return null;
  field.focus();
  field.scrollIntoView({ block: 'center' });
  const note = document.getElementById(field.getAttribute('aria-describedby') ?? '');
  const label = textOf(field.labels?.[0]) || 'A field';
  const why = textOf(note) || 'this cannot be taken.';
  return `Nothing was saved. ${why.startsWith(label) ? why : `${label}: ${why}`}`;
};
