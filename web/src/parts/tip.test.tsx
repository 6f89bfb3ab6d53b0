import { act, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { OneLine, Tip } from './Tip';

const tips = (): string[] => screen.queryAllByRole('tooltip').map((tip) => tip.textContent);
/** Nothing has a size in a simulated browser: as wide as told, in a place of 100. */
const wide = (width: number): void => {
  for (const [name, value] of [
    ['scrollWidth', width],
    ['clientWidth', 100],
  ] as const)
    // prettier-ignore
    Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get: () => value });
};
const point = (kind: 'pointerEnter' | 'pointerLeave', at: Element, pointerType: string): void => {
  const event = new MouseEvent({ pointerEnter: 'pointerover', pointerLeave: 'pointerout' }[kind], { bubbles: true });
  act(() => {
    fireEvent(at, Object.assign(event, { pointerType }));
  });
};

describe('words on one line', () => {
  const words = 'Head over the work, fully down';

  it('are whole in a tip when they are pointed at, as long as they are', () => {
    wide(140);
    render(<OneLine text={words} />);
    const line = screen.getByText(words);
    expect(tips()).toEqual([]);
    point('pointerEnter', line, 'mouse');
    expect(tips()).toEqual([words]);
    point('pointerLeave', line, 'mouse');
    expect(tips()).toEqual([]);
  });

  it('stay in their tip after a finger was lifted, until Escape', () => {
    wide(140);
    render(<OneLine text={words} />);
    point('pointerEnter', screen.getByText(words), 'touch');
    point('pointerLeave', screen.getByText(words, { selector: 'span.truncate' }), 'touch');
    expect(tips()).toEqual([words]);
    fireEvent.keyDown(document.body, { key: 'Escape' });
    expect(tips()).toEqual([]);
  });

  it('need no tip where there is room for them', () => {
    wide(100);
    render(<OneLine text={words} />);
    point('pointerEnter', screen.getByText(words), 'mouse');
    expect(tips()).toEqual([]);
  });
});

describe('what more there is to say of a button', () => {
  it('comes with the focus, describes it, and its press is its own', async () => {
    const pressed = jest.fn();
    render(
      <Tip says="Take back: clearance 0.8 (Odile)">
        <button onClick={pressed}>undo</button>
      </Tip>,
    );
    await userEvent.tab();
    expect(tips()).toEqual(['Take back: clearance 0.8 (Odile)']);
    const button = screen.getByRole('button', { name: 'undo' });
    expect(document.getElementById(button.getAttribute('aria-describedby')!)!.textContent).toMatch(/^Take back/);
    await userEvent.keyboard('{Enter}');
    expect(pressed).toHaveBeenCalledTimes(1);
  });
});
