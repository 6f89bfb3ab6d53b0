import { act, fireEvent, screen, waitFor, type BoundFunctions, type queries } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

/** Chooses from a list by its words, as with the mouse; from the first of several with the same label. */
export const pick = async (label: string | RegExp, words: string | RegExp): Promise<void> => {
  const user = userEvent.setup();
  await user.click(screen.getAllByRole('combobox', { name: label })[0]!);
  await user.click(await screen.findByRole('option', { name: words }));
  await waitFor(() => expect(screen.queryByRole('listbox')).toBeNull());
};

/** Presses a button, and lets what follows of it happen. */
export const press = async (name: string | RegExp, within: BoundFunctions<typeof queries> = screen): Promise<void> => {
  const button = await within.findByRole('button', { name });
  await act(async () => {
    fireEvent.click(button);
    await new Promise((done) => setTimeout(done, 0));
  });
};

/** Ticks a box, or takes the tick off. */
export const tick = async (name: string | RegExp): Promise<void> => {
  const box = screen.getByRole('checkbox', { name });
  await act(async () => {
    fireEvent.click(box);
    await new Promise((done) => setTimeout(done, 0));
  });
};

/** Types a number into a field and leaves it. */
export const enter = async (field: HTMLElement, value: string): Promise<void> => {
  await act(async () => {
    fireEvent.focus(field);
    fireEvent.change(field, { target: { value } });
    fireEvent.blur(field);
    await Promise.resolve();
  });
};

/** A reading by its label: its value, unit and note as they are read. */
export const readingOf = (label: string): string =>
  screen.getByText(label, { selector: 'p > span' }).closest('div')!.textContent.slice(label.length);
