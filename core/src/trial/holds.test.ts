import { EFFECTS } from './plan';
import { HOLD_KINDS, HOLD_WORDS, testsFor, testsMissing, testWords } from './holds';

describe('whether a cell holds', () => {
  // What lies on a surface may come off it; what is gone may not [common practice].
  it('is asked of what lies on a surface, and not of what is cut or deep', () => {
    expect(EFFECTS.filter((e) => testsFor(e).length > 0)).toEqual(['frost', 'mark', 'clean']);
    expect(testsFor('mark')).toEqual(['rub']);
  });
  it('is not known while a test that is asked for was not made', () => {
    expect(testsMissing('clean', [])).toEqual(['rub', 'tape']);
    expect(testsMissing('clean', [{ kind: 'tape' }, { kind: 'wash' }])).toEqual(['rub']);
    expect(testsMissing('cut', [])).toEqual([]);
  });
  it('is said with how often, with what, and what came of it', () => {
    expect(testWords({ kind: 'rub', times: 20, with: 'a cloth and alcohol', holds: true })).toBe('rubbed 20 times with a cloth and alcohol: holds'); // prettier-ignore
    expect(testWords({ kind: 'tape', times: 1, with: ' ', holds: false })).toBe('taped 1 time: comes off');
    for (const kind of HOLD_KINDS) expect(HOLD_WORDS[kind].times).toBeGreaterThan(0);
  });
});
