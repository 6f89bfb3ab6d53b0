import { convert } from './convert';
import { fluence, freshMachine, type Machine } from './machine';
import { depthOfFocus, rayleighRange, spotAt, spotOf, type Optics } from './optics';

const lens: Optics = { wavelength: 10.6, focal: 63.5, beam: 6, quality: 1 };

/**
 * Width of a Gaussian beam behind a lens by adding up Huygens’ waves along a line, as ISO 11146 defines it: four standard
 * deviations of where its power is. Independent of the closed form.
 */
const widthBehind = ({ wavelength, focal, beam }: Optics, z: number): number => {
  const k = (2 * Math.PI) / (wavelength / 1000);
  const n = 1600;
  const half = 1.6 * beam;
  const wide = 4 * Math.max(0.05, (2 * (wavelength / 1000) * Math.hypot(z, 0)) / (Math.PI * beam) + (Math.abs(z - focal) * beam) / focal / 2); // prettier-ignore
  let [power, second] = [0, 0];
  for (let j = 0; j <= 160; j += 1) {
    const x = wide * (j / 80 - 1);
    let [re, im] = [0, 0];
    for (let i = 0; i <= n; i += 1) {
      const u = half * ((2 * i) / n - 1);
      const amplitude = Math.exp(-(((2 * u) / beam) ** 2));
      // The lens bends the front towards its focus; then Fresnel’s phase to the place.
      const phase = (-k * u * u) / (2 * focal) + (k * (x - u) ** 2) / (2 * z);
      re += amplitude * Math.cos(phase);
      im += amplitude * Math.sin(phase);
    }
    const intensity = re * re + im * im;
    power += intensity;
    second += intensity * x * x;
  }
  return 4 * Math.sqrt(second / power);
};

describe('a focused beam', () => {
  it('has the spot and the range of the text’s example', () => {
    expect(spotOf(lens)).toBeCloseTo(0.1428, 4);
    expect(rayleighRange(lens)).toBeCloseTo((Math.PI * 0.0714 ** 2) / 0.0106, 2);
    expect(spotOf({ ...lens, quality: 1.5 })).toBeCloseTo(1.5 * 0.1428, 3);
  });

  it.each([
    ['a gas tube, 63.5 mm', lens],
    ['a gas tube, 38.1 mm', { ...lens, focal: 38.1, beam: 5 }],
  ])('is as wide as its waves add up to, in and off its waist: %s', (_name, of) => {
    expect(widthBehind(of, of.focal) / spotOf(of)).toBeCloseTo(1, 1);
    const off = rayleighRange(of);
    expect(widthBehind(of, of.focal + off) / spotAt(of, off)).toBeCloseTo(1, 1);
    expect(spotAt(of, off) / spotOf(of)).toBeCloseTo(Math.SQRT2, 9);
  });

  it('is in focus as long as its spot grows no more than is said', () => {
    const depth = depthOfFocus(lens, 0.1);
    expect(spotAt(lens, depth) / spotOf(lens)).toBeCloseTo(1.1, 9);
    expect(depthOfFocus(lens, Math.SQRT2 - 1)).toBeCloseTo(rayleighRange(lens), 9);
  });
});

describe('a setting of another machine', () => {
  const machine = (part: Partial<Machine> = {}): Machine => ({ ...freshMachine, id: 'm', name: 'Bench A', power: 60, rapidSpeed: 500, optics: lens, ...part }); // prettier-ignore
  const setting = { power: 0.6, speed: 250, interval: 25.4 / 300, passes: 1 };

  // Common practice: half the power, half the speed.
  it('holds its energy: half the power, half the speed', () => {
    const made = convert(setting, machine(), machine({ name: 'Bench D', power: 30 }));
    expect(made).toMatchObject({ ok: true, value: { setting: { power: 0.6, speed: 125 }, trust: 'close' } });
    if (made.ok) expect(fluence(30, made.value.setting)).toBeCloseTo(fluence(60, setting), 9);
  });

  it('goes weaker where it cannot go faster, and says when it cannot go weaker', () => {
    const strong = convert(setting, machine(), machine({ power: 200 }));
    if (!strong.ok) throw new Error(strong.problem.message);
    expect(strong.value.setting.speed).toBe(500);
    expect(fluence(200, strong.value.setting)).toBeCloseTo(fluence(60, setting), 9);
    expect(convert({ ...setting, power: 0.2 }, machine(), machine({ name: 'Bench E', power: 400 }))).toMatchObject({ problem: { code: 'too-strong', message: expect.stringMatching(/Bench E is too strong/) as string } }); // prettier-ignore
  });

  it('through another lens has its lines as far apart for the spot, and is trusted less', () => {
    const wide = convert(setting, machine(), machine({ optics: { ...lens, focal: 101.6 } }));
    if (!wide.ok) throw new Error(wide.problem.message);
    expect(wide.value.setting.interval / setting.interval).toBeCloseTo(1.6, 2);
    expect(fluence(60, wide.value.setting)).toBeCloseTo(fluence(60, setting), 6);
    expect([wide.value.trust, wide.value.because.join(' ')]).toEqual(['rough', expect.stringMatching(/The spot is 0\.22[89] mm and not 0\.143/)]); // prettier-ignore
    const unknown = convert(setting, machine({ optics: null }), machine());
    expect(unknown).toMatchObject({ value: { trust: 'rough', because: [expect.anything(), expect.stringMatching(/its lens says it/)] } }); // prettier-ignore
  });

  it('of another wavelength says nothing, and why', () => {
    const other = convert(setting, machine(), machine({ name: 'Bench B', source: 'diode', optics: null }));
    expect(other).toMatchObject({ ok: false, problem: { code: 'other-wavelength', message: expect.stringMatching(/Bench A burns with 10\.6 µm and Bench B with 0\.45/) as string } }); // prettier-ignore
  });

  it('of a second source is not brought over: nothing is known of its beam elsewhere', () => {
    expect(convert({ ...setting, source: 'second' }, machine(), machine({ name: 'Bench F' }))).toMatchObject({ ok: false, problem: { code: 'second-source', message: expect.stringMatching(/second source of Bench A, .* on Bench F/) as string } }); // prettier-ignore
  });
});
