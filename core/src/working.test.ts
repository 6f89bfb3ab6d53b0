import { degrees, fixed, listed, mm, percent } from './working';

describe('numbers in a line of working', () => {
  it('are shares in percent without the noughts that end their decimals, and with those of whole numbers', () => {
    expect([percent(0.4, 0), percent(1, 0), percent(0.05, 1), percent(0.1234, 2), percent(0.5)]).toEqual(['40 %', '100 %', '5 %', '12.34 %', '50 %']); // prettier-ignore
    expect([percent(0), percent(0.00004)]).toEqual(['0 %', 'under 0.01 %']);
  });
  it('never are minus nothing, and carry one minus', () => {
    expect([fixed(-0.001), fixed(-1.5, 1), mm(-0.004), mm(2.5)]).toEqual(['0.00', '−1.5', '0.00 mm', '2.50 mm']);
    expect(degrees(Math.PI / 2, 0)).toBe('90°');
  });
  it('are listed as a sentence lists them', () => {
    expect([listed([]), listed(['1']), listed([1, 2]), listed(['a', 'b', 'c'])]).toEqual(['', '1', '1 and 2', 'a, b and c']); // prettier-ignore
  });
});
